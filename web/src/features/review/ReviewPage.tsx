import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { age, figure, nearness, shortDate, Words } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useSession } from '../../shared/session';
import { Empty, Mark, More, Waiting } from '../../shared/ui';
import { type Only, reviewQuery, sheetQuery, type Sort } from './api';
import { DecisionBar } from './DecisionBar';
import { ApprovalRow, FindingRow, Position } from './Findings';
import { SheetLines } from './SheetLines';

const SORTS: [Sort, string][] = [
  ['STAKE', 'most at stake first'],
  ['REQUESTED', 'wanted soonest first'],
  ['VALUE', 'largest first'],
  ['AGE', 'oldest first'],
];
const SHOWN: [Only | '', string][] = [
  ['', 'all'],
  ['HELD', 'held'],
  ['AWAITING', 'to approve'],
  ['FLAGGED', 'flagged'],
];
const REASONS: [string, string][] = [
  ['', 'any reason'],
  ['approval', 'waits for approval'],
  ['credit-limit', 'credit limit'],
  ['duplicate-po', 'PO used before'],
  ['overdue', 'invoices overdue'],
  ['blocked', 'customer blocked'],
  ['zero-price', 'price'],
  ['price-floor', 'below floor price'],
  ['licence', 'licence'],
  ['unreserved', 'short of stock'],
];

/** What is held or flagged at the left, the case of the chosen order at the right. */
export function ReviewPage() {
  const { number } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const sort = (search.get('sort') ?? 'STAKE') as Sort;
  const reason = search.get('reason') || undefined;
  const only = (search.get('only') || undefined) as Only | undefined;
  const list = useInfiniteQuery(reviewQuery(sort, reason, only));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const totals = list.data?.pages[0];
  const at = rows.findIndex((row) => row.number === number);
  const lastAt = useRef(0);
  useEffect(() => {
    if (at >= 0) lastAt.current = at;
  }, [at]);
  const go = (to: string) => navigate({ pathname: `/review/${to}`, search: search.toString() }, { replace: true });
  const first = rows[0]?.number;
  useEffect(() => {
    if (!number && first) navigate({ pathname: `/review/${first}`, search: search.toString() }, { replace: true });
  }, [number, first, navigate, search]);
  // an order that was decided has left the list: the next one has moved into its place
  const next = () => rows.length > 0 && go(rows[Math.min(at < 0 ? lastAt.current : at + 1, rows.length - 1)].number);
  const previous = () => rows.length > 0 && go(rows[Math.max((at < 0 ? lastAt.current : at) - 1, 0)].number);
  useKeys({ j: next, k: previous, arrowdown: next, arrowup: previous, enter: () => number && navigate(`/orders/${number}`) });
  const set = (key: string, value: string) => {
    const changed = new URLSearchParams(search);
    if (value) changed.set(key, value);
    else changed.delete(key);
    setSearch(changed, { replace: true });
  };
  if (!totals) return <Waiting query={list} />;
  return (
    <div className="split">
      <section className="left" aria-label="Held and flagged orders">
        <div className="list-head">
          <h1 className="nowrap" style={{ fontSize: 17 }}>
            {[`${totals.held} held`, totals.awaiting > 0 && `${totals.awaiting} to approve`, totals.flagged > 0 && `${totals.flagged} flagged`].filter(Boolean).join(', ')}
          </h1>
          <div className="muted small" style={{ display: 'flex', justifyContent: 'space-between' }}>
            <span className="nowrap">€ {figure(totals.value)}</span>
            <Choice label="Sorted" of={SORTS} value={sort} onChange={(value) => set('sort', value)} />
          </div>
          <div className="muted small" style={{ display: 'flex', justifyContent: 'space-between' }}>
            <Choice label="Shown" of={SHOWN} value={only ?? ''} onChange={(value) => set('only', value)} />
            <Choice label="Reason" of={REASONS} value={reason ?? ''} onChange={(value) => set('reason', value)} />
          </div>
        </div>
        {rows.map((row) => (
          <Row key={row.number} row={row} at={row.number === number} search={search.toString()} />
        ))}
        {rows.length === 0 && <Empty>{reason || only ? 'Nothing is held or flagged like that.' : 'Nothing is held or flagged.'}</Empty>}
        <More query={list} />
      </section>
      <section className="right">{number ? <CaseSheet number={number} /> : <Empty>All clear: no order waits for a decision.</Empty>}</section>
    </div>
  );
}

function Choice({ label, of, value, onChange }: { label: string; of: [string, string][]; value: string; onChange: (to: string) => void }) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      style={{ border: 0, background: 'transparent', color: 'inherit', font: 'inherit', padding: 0, marginLeft: -4 }}
    >
      {of.map(([code, words]) => (
        <option key={code} value={code}>
          {words}
        </option>
      ))}
    </select>
  );
}

function Row({ row, at, search }: { row: Schemas['ReviewRow']; at: boolean; search: string }) {
  const { today } = useSession();
  const link = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    if (at) link.current?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  return (
    <Link ref={link} className={`list-item${at ? ' at' : ''}`} to={{ pathname: `/review/${row.number}`, search }} replace aria-current={at}>
      <div>
        <span className={at ? 'strong' : ''} style={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {row.customerName}
        </span>
        <span className="nowrap">€ {figure(row.gross)}</span>
      </div>
      <div className="muted small">
        <span className="reasons">
          {row.reasons.map((reason) => (
            <span key={reason.check} className="nowrap">
              <Mark of={reason.severity} />
              {reason.brief}
            </span>
          ))}
        </span>
        <span className="nowrap">{nearness(row.requestedOn, today)}</span>
      </div>
      <div className="muted small">
        <span className="mono">{row.number}</span>
        <span className="nowrap">{age(row.since, today)}</span>
      </div>
    </Link>
  );
}

function CaseSheet({ number }: { number: string }) {
  const query = useQuery(sheetQuery(number));
  const sheet = query.data;
  if (!sheet) return <Waiting query={query} />;
  const { order } = sheet;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Order{' '}
            <Link className="mono" to={`/orders/${order.number}`}>
              {order.number}
            </Link>{' '}
            · {order.customerName}
          </h1>
          <span className="muted nowrap">
            {order.po ? (
              <>
                PO <span className="mono">{order.po}</span> ·{' '}
              </>
            ) : (
              'no PO · '
            )}
            written by {order.author}, {shortDate(order.orderedOn)}
          </span>
        </div>
        <p className="situation">{sheet.sentence}</p>
        {sheet.approval && <ApprovalRow approval={sheet.approval} />}
        {sheet.findings.map((finding) => (
          <FindingRow key={finding.check} finding={finding} />
        ))}
        <div style={{ borderTop: '1px solid var(--rule)', paddingTop: 10 }}>
          <SheetLines sheet={sheet} />
        </div>
        <div className="totals">
          <span>
            net <b>{figure(order.net)}</b>
          </span>
          <span>
            VAT <b>{figure(order.vat)}</b>
          </span>
          <span>
            gross <b>{figure(order.gross)}</b>
          </span>
        </div>
        <div className="two" style={{ marginTop: 18 }}>
          <HistoryList sheet={sheet} />
          <Position name={`${order.customerName} now`} position={sheet.position} />
        </div>
      </div>
      <DecisionBar sheet={sheet} />
    </div>
  );
}

export function HistoryList({ sheet }: { sheet: Schemas['SheetView'] }) {
  return (
    <section>
      <h2>What happened so far</h2>
      {sheet.history.map((line, index) => (
        <div className="pair" key={index} style={{ justifyContent: 'flex-start' }}>
          <span className="muted nowrap" style={{ flex: '0 0 52px' }}>
            {shortDate(line.on)}
          </span>
          <span>
            {line.kind === 'ORDER' ? line.sentence.replace(/^./, (first) => first.toUpperCase()) : `${Words(line.kind)} ${line.number} ${line.sentence === line.number ? '' : line.sentence}`}{' '}
            <span className="muted">by {line.by}</span>
          </span>
        </div>
      ))}
    </section>
  );
}
