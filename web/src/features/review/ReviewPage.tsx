import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Schemas } from '../../shared/api/http';
import { queries } from '../../shared/api/queries';
import { currency } from '../../shared/currency';
import { age, figure, nearness, shortDate } from '../../shared/format';
import { useKeys } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Empty, Mark, More, Waiting } from '../../shared/ui';
import { Choice } from '../../shared/ui/fields';
import { DecisionBar } from './DecisionBar';
import { ApprovalRow, FindingRow, Position } from './Findings';
import { HistoryList } from './Notes';
import { Remedies } from './Remedies';
import { SheetLines } from './SheetLines';
import { type Only, reviewQuery, sheetQuery, type Sort } from './api';

const SORTS: [Sort, string][] = [
  ['PRIORITY', 'highest priority first'],
  ['REQUESTED', 'requested soonest first'],
  ['VALUE', 'largest first'],
  ['AGE', 'oldest first'],
];
const SHOWN: [Only | '', string][] = [
  ['', 'all'],
  ['HELD', 'held'],
  ['AWAITING', 'to approve'],
  ['MINE', 'for me to approve'],
  ['FLAGGED', 'flagged'],
];
/** What is held or flagged at the left, the case of the chosen order at the right. */
export function ReviewPage() {
  const { number } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useGo();
  const sort = (search.get('sort') ?? 'PRIORITY') as Sort;
  const reason = search.get('reason') || undefined;
  const only = (search.get('only') || undefined) as Only | undefined;
  const list = useInfiniteQuery(reviewQuery(sort, reason, only));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const totals = list.data?.pages[0];
  const at = rows.findIndex((row) => row.number === number);
  const [lastAt, setLastAt] = useState(0);
  if (at >= 0 && at !== lastAt) setLastAt(at);
  const go = (to: string) => navigate({ pathname: `/review/${to}`, search: search.toString() }, { replace: true });
  const following = rows[(at < 0 ? lastAt - 1 : at) + 1]?.number;
  useEffect(() => {
    if (following) void queries.query(sheetQuery(following)).catch(() => undefined);
  }, [following]);
  const first = rows[0]?.number;
  useEffect(() => {
    if (!number && first) navigate({ pathname: `/review/${first}`, search: search.toString() }, { replace: true });
  }, [number, first, navigate, search]);
  // an order that was decided has left the list: the next one has moved into its place
  const step = (by: 1 | -1) => {
    const to = at < 0 ? lastAt + Math.min(by, 0) : at + by;
    const row = rows[Math.max(0, Math.min(to, rows.length - 1))];
    if (row) go(row.number);
  };
  const next = () => step(1);
  const previous = () => step(-1);
  const [selected, setSelected] = useState<string[]>([]);
  const select = (of: string) =>
    setSelected((before) => (before.includes(of) ? before.filter((one) => one !== of) : [...before, of]));
  const together = () =>
    navigate(
      `/review/together?orders=${rows
        .map((row) => row.number)
        .filter((one) => selected.includes(one))
        .join(',')}`,
    );
  const chosen = selected.filter((one) => rows.some((row) => row.number === one));
  useKeys({
    j: next,
    k: previous,
    x: () => number && select(number),
    'shift+x': () => setSelected(chosen.length === rows.length ? [] : rows.map((row) => row.number)),
    c: chosen.length > 0 ? together : undefined,
    enter: () => number && navigate(`/orders/${number}`),
  });
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
          <h2 className="part nowrap" style={{ fontSize: 17 }}>
            {totals.held + totals.awaiting + totals.flagged === 0 && 'Nothing waits'}
            {[
              totals.held > 0 && `${totals.held} held`,
              totals.awaiting > 0 && `${totals.awaiting} to approve`,
              totals.flagged > 0 && `${totals.flagged} flagged`,
            ]
              .filter(Boolean)
              .join(', ')}
          </h2>
          <div className="muted small row spread-space-between">
            <span className="nowrap">
              {currency()} {figure(totals.value)}
            </span>
            <Choice className="bare" label="Sorted" of={SORTS} value={sort} onChange={(value) => set('sort', value)} />
          </div>
          <div className="muted small list-choices">
            <Choice
              className="bare"
              label="Shown"
              of={SHOWN}
              value={only ?? ''}
              onChange={(value) => set('only', value)}
            />
            <Choice
              className="bare"
              label="Reason"
              of={reasonsOf(totals)}
              value={reason ?? ''}
              onChange={(value) => set('reason', value)}
            />
            <Link to="/undone" className="nowrap">
              plans waiting
            </Link>
          </div>
        </div>
        {rows.map((row) => (
          <Row
            key={row.number}
            row={row}
            at={row.number === number}
            search={search.toString()}
            selected={chosen.includes(row.number)}
            onSelect={() => select(row.number)}
          />
        ))}
        {rows.length === 0 && (
          <Empty>{reason || only ? 'No held or flagged orders match.' : 'No held or flagged orders.'}</Empty>
        )}
        <More query={list} />
        {chosen.length > 0 && (
          <div
            className="bar"
            style={{ position: 'sticky', bottom: 0, padding: '9px 16px', marginTop: 'auto', flexShrink: 0 }}
          >
            <button className="button first" onClick={together}>
              Clear {chosen.length} together <kbd>C</kbd>
            </button>
            <button className="plain" onClick={() => setSelected([])}>
              Unselect
            </button>
          </div>
        )}
      </section>
      <section className="right">
        {number ? (
          <CaseSheet key={number} number={number} selecting={chosen.length > 0} onDecided={next} />
        ) : (
          <Empty>No order waits for a decision.</Empty>
        )}
      </section>
    </div>
  );
}

/** The reasons that orders are in the list for, with how many each. */
const reasonsOf = ({ reasons, awaiting }: Schemas['ReviewPage']): [string, string][] => [
  ['', 'any reason'],
  ...(awaiting > 0 ? [['approval', `waits for approval, ${awaiting}`] as [string, string]] : []),
  ...reasons.map(({ check, title, orders }): [string, string] => [
    check,
    `${title.toLowerCase().replace('po ', 'PO ')}, ${orders}`,
  ]),
];

function Row({
  row,
  at,
  search,
  selected,
  onSelect,
}: {
  row: Schemas['ReviewRow'];
  at: boolean;
  search: string;
  selected: boolean;
  onSelect: () => void;
}) {
  const { today } = useSession();
  const link = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    if (at) link.current?.scrollIntoView({ block: 'nearest' });
  }, [at]);
  return (
    <Link
      ref={link}
      className={`list-item${at ? ' at' : ''}`}
      to={{ pathname: `/review/${row.number}`, search }}
      replace
      aria-current={at}
    >
      <div>
        <span
          className={at ? 'strong' : ''}
          style={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
        >
          {row.customerName}
        </span>
        <span className="nowrap">
          {currency()} {figure(row.gross)}
        </span>
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
        <span className="nowrap">
          <input
            type="checkbox"
            tabIndex={-1}
            aria-label={`Select ${row.number}`}
            checked={selected}
            onChange={onSelect}
            onClick={(event) => event.stopPropagation()}
            className="around-0-6px-0-0 raised-m2"
          />
          <span className="mono">{row.number}</span>
        </span>
        <span className="nowrap">{age(row.since, today)}</span>
      </div>
    </Link>
  );
}

function CaseSheet({ number, selecting, onDecided }: { number: string; selecting: boolean; onDecided: () => void }) {
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
            entered by {order.author}, {shortDate(order.orderedOn)}
          </span>
        </div>
        <p className="situation">{sheet.sentence}</p>
        {sheet.approval && <ApprovalRow approval={sheet.approval} />}
        {sheet.findings.map((finding) => (
          <FindingRow key={finding.check} finding={finding} sheet={sheet} />
        ))}
        <Remedies sheet={sheet} />
        <div className="line-above inset-top-10">
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
        <div className="two above-18">
          <HistoryList sheet={sheet} />
          <Position name={`${order.customerName} now`} position={sheet.position} call={sheet.call} />
        </div>
      </div>
      <DecisionBar sheet={sheet} selecting={selecting} onDecided={onDecided} />
    </div>
  );
}
