import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';
import { capital, date, isZero, orDash, trim, Words } from '../../shared/format';
import { useCursor, useKeys } from '../../shared/keys';
import { may, useSession } from '../../shared/session';
import { Doc, Empty, More, ProblemNote, ReasonDialog, Tabs, tell, tellProblem, Waiting } from '../../shared/ui';
import { refreshAll } from '../review';

type Goods = Schemas['ReturnView'];
type Line = Schemas['ReturnLineView'];

const TABS = [
  { to: '/returns', label: 'Expected back' },
  { to: '/returns/inspecting', label: 'In inspection' },
  { to: '/returns/all', label: 'All' },
];

/** Goods that are to come back, that are here to be looked at, and all that ever did. */
export function ReturnsPage() {
  const { tab } = useParams();
  const state = tab === 'inspecting' ? 'inspecting' : tab === 'all' ? undefined : 'expected';
  const navigate = useNavigate();
  const query = useInfiniteQuery({
    queryKey: ['returns', state],
    queryFn: ({ pageParam }) => answer(client.GET('/api/returns', { params: { query: { state, after: pageParam } } })),
    ...pages,
  });
  const rows = query.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at] = useCursor(rows, (row) => navigate(`/returns/return/${row.number}`));
  return (
    <div className="page">
      <div className="page-scroll">
        <Tabs of={TABS} />
        {!query.data && <Waiting query={query} />}
        {query.data && rows.length === 0 && (
          <Empty>{state === 'expected' ? 'Nothing is expected back.' : state === 'inspecting' ? 'Nothing is in inspection.' : 'Nothing ever came back.'} Goods are taken back from the order, the dispatch or the invoice, with Unwind.</Empty>
        )}
        {rows.length > 0 && (
          <table className="rows">
            <thead>
              <tr>
                <th>Return</th>
                <th>Customer</th>
                <th>Reason</th>
                <th>Authorised</th>
                <th>Received</th>
                <th>State</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row, index) => (
                <tr key={row.number} className={index === at ? 'at' : ''}>
                  <td>
                    <Doc kind="RETURN" number={row.number} />
                  </td>
                  <td>{row.customerName}</td>
                  <td>{capital(row.reason.replaceAll('-', ' '))}</td>
                  <td className="nowrap">{date(row.on)}</td>
                  <td className="nowrap">{date(row.receivedOn)}</td>
                  <td>{Words(row.state)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <More query={query} />
      </div>
    </div>
  );
}

const expected = (line: Line, goods: Goods) => (goods.withdrawn ? '0' : line.awaited);

/** A return: what may come back, what came, what became of it; received and inspected here. */
export function ReturnPage() {
  const { number = '' } = useParams();
  const query = useQuery({
    queryKey: ['return', number],
    queryFn: () => answer(client.GET('/api/returns/{number}', { params: { path: { number } } })),
  });
  if (!query.data) return <Waiting query={query} />;
  return <ReturnSheet key={query.data.version} goods={query.data} />;
}

type Verdict = { restock: string; scrap: string; sendBack: string; remark: string };
const NONE: Verdict = { restock: '', scrap: '', sendBack: '', remark: '' };

function ReturnSheet({ goods }: { goods: Goods }) {
  const { role } = useSession();
  const handles = may(role, 'moveGoods');
  const [came, setCame] = useState<Record<number, string>>(() => Object.fromEntries(goods.lines.map((line) => [line.no, isZero(expected(line, goods)) ? '' : trim(expected(line, goods))])));
  const [verdicts, setVerdicts] = useState<Record<number, Verdict>>({});
  const [withdrawing, setWithdrawing] = useState(false);
  const path = { path: { number: goods.number } };
  const done = { onSettled: refreshAll, onError: tellProblem };
  const receive = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/returns/{number}/receipts', {
          params: path,
          body: { version: goods.version, lines: Object.entries(came).filter(([, quantity]) => Number(quantity) > 0).map(([line, quantity]) => ({ line: Number(line), quantity })) },
          ...once(),
        }),
      ),
    onSuccess: () => tell('Received, into inspection.'),
    ...done,
  });
  const judged = Object.entries(verdicts).filter(([, v]) => [v.restock, v.scrap, v.sendBack].some((quantity) => Number(quantity) > 0));
  const inspect = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/returns/{number}/inspections', {
          params: path,
          body: {
            version: goods.version,
            lines: judged.map(([line, v]) => ({ line: Number(line), restock: v.restock || undefined, scrap: v.scrap || undefined, sendBack: v.sendBack || undefined, remark: v.remark })),
          },
          ...once(),
        }),
      ),
    onSuccess: () => tell('Inspected.'),
    ...done,
  });
  const credit = useMutation({
    mutationFn: () => answer(client.POST('/api/credit-notes', { body: { ofReturn: goods.number }, ...once() })),
    onSuccess: (credits) => tell(`Credited with ${credits.numbers.join(', ')}.`),
    ...done,
  });
  const withdraw = useMutation({
    mutationFn: (reason: string) => answer(client.POST('/api/returns/{number}/withdrawals', { params: path, body: { version: goods.version, reason }, ...once() })),
    onSuccess: () => {
      tell('Withdrawn: what has not come may not come any more.');
      setWithdrawing(false);
    },
    onSettled: refreshAll,
  });
  const canReceive = handles && goods.expects && Object.values(came).some((quantity) => Number(quantity) > 0) && !receive.isPending;
  const canInspect = handles && judged.length > 0 && !inspect.isPending;
  useKeys({ 'ctrl+enter': canInspect ? () => inspect.mutate() : canReceive ? () => receive.mutate() : undefined });
  const set = (line: Line, field: keyof Verdict, value: string) => setVerdicts({ ...verdicts, [line.no]: { ...(verdicts[line.no] ?? NONE), [field]: value } });
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            Return <span className="mono">{goods.number}</span> · <Link to={`/customers/${encodeURIComponent(goods.customer)}`}>{goods.customerName}</Link>
          </h1>
          <span className="muted nowrap">
            <Link to={`/trail/RETURN/${goods.number}`}>Trail</Link>
          </span>
        </div>
        <p className="situation">{sentence(goods)}</p>
        <p className="muted">
          Authorised on {date(goods.on)}: {goods.reason.replaceAll('-', ' ')}
          {goods.remark && `; ${goods.remark}`}
        </p>
        <table className="rows">
          <thead>
            <tr>
              <th className="num">Line</th>
              <th>Item</th>
              <th>From</th>
              <th className="num">May come</th>
              <th className="num">Came</th>
              {goods.expects && handles && <th className="num">Comes now</th>}
              <th className="num">To inspect</th>
              {goods.inspecting && handles ? (
                <>
                  <th className="num">To shelf</th>
                  <th className="num">Scrap</th>
                  <th className="num">Send back</th>
                  <th>Serial no., what is broken</th>
                </>
              ) : (
                <>
                  <th className="num">On shelf</th>
                  <th className="num">Scrapped</th>
                  <th className="num">Sent back</th>
                </>
              )}
            </tr>
          </thead>
          <tbody>
            {goods.lines.map((line) => (
              <tr key={line.no}>
                <td className="num">{line.no}</td>
                <td>
                  {line.description} <span className="mono muted small nowrap">{line.item}</span>
                </td>
                <td className="nowrap">
                  <Doc kind="DISPATCH" number={line.dispatch} />
                  {line.invoice && (
                    <>
                      , <Doc kind="INVOICE" number={line.invoice} />
                    </>
                  )}
                </td>
                <td className="num">{trim(line.authorised)}</td>
                <td className="num">{orDash(line.received) === '–' ? '–' : trim(line.received)}</td>
                {goods.expects && handles && (
                  <td className="num">
                    {isZero(expected(line, goods)) ? '–' : <Quantity label={`Comes now, line ${line.no}`} value={came[line.no] ?? ''} onChange={(to) => setCame({ ...came, [line.no]: to })} />}
                  </td>
                )}
                <td className="num">{isZero(line.inInspection) ? '–' : trim(line.inInspection)}</td>
                {goods.inspecting && handles ? (
                  isZero(line.inInspection) ? (
                    <td colSpan={4} className="muted">
                      nothing to inspect
                    </td>
                  ) : (
                    <>
                      {(['restock', 'scrap', 'sendBack'] as const).map((field) => (
                        <td className="num" key={field}>
                          <Quantity label={`${FIELD[field]}, line ${line.no}`} value={verdicts[line.no]?.[field] ?? ''} onChange={(to) => set(line, field, to)} />
                        </td>
                      ))}
                      <td>
                        <input className="cell-input" aria-label={`Remark, line ${line.no}`} maxLength={2000} value={verdicts[line.no]?.remark ?? ''} onChange={(event) => set(line, 'remark', event.target.value)} />
                      </td>
                    </>
                  )
                ) : (
                  [line.restocked, line.scrapped, line.sentBack].map((quantity, index) => (
                    <td className="num" key={index}>
                      {isZero(quantity) ? '–' : trim(quantity)}
                    </td>
                  ))
                )}
              </tr>
            ))}
          </tbody>
        </table>
        {goods.credits.length > 0 && (
          <p>
            Credited with{' '}
            {goods.credits.map((number) => (
              <span key={number} style={{ marginRight: 8 }}>
                <Doc kind="CREDIT_NOTE" number={number} />
              </span>
            ))}
          </p>
        )}
        <ProblemNote problem={receive.error ?? inspect.error ?? credit.error} />
      </div>
      <div className="bar">
        {goods.expects && handles && (
          <button className={goods.inspecting ? 'button' : 'button first'} disabled={!canReceive} onClick={() => receive.mutate()}>
            Receive into inspection {!goods.inspecting && <kbd>Ctrl ↵</kbd>}
          </button>
        )}
        {goods.inspecting && handles && (
          <button className="button first" disabled={!canInspect} onClick={() => inspect.mutate()}>
            Decide on what is named <kbd>Ctrl ↵</kbd>
          </button>
        )}
        {may(role, 'bill') && goods.lines.some((line) => !isZero(line.creditable)) && (
          <button className="button" disabled={credit.isPending} onClick={() => credit.mutate()}>
            Credit what came back
          </button>
        )}
        <span className="gap" />
        {goods.expects && may(role, 'decide') && (
          <button className="plain" onClick={() => setWithdrawing(true)}>
            Withdraw…
          </button>
        )}
      </div>
      {withdrawing && (
        <ReasonDialog title={`Withdraw return ${goods.number}`} action="Withdraw" busy={withdraw.isPending} problem={withdraw.error} onClose={() => setWithdrawing(false)} onGiven={(reason) => withdraw.mutate(reason)}>
          What has not come back by now may not come any more.
        </ReasonDialog>
      )}
    </div>
  );
}

const FIELD = { restock: 'To shelf', scrap: 'Scrap', sendBack: 'Send back' };

function Quantity({ label, value, onChange }: { label: string; value: string; onChange: (to: string) => void }) {
  return (
    <input
      className="cell-input num"
      style={{ width: 62, borderBottomColor: 'var(--rule-strong)' }}
      aria-label={label}
      value={value}
      onChange={(event) => /^\d*\.?\d{0,3}$/.test(event.target.value) && onChange(event.target.value)}
    />
  );
}

function sentence(goods: Goods): string {
  if (goods.inspecting) return `Goods are here and wait to be inspected${goods.expects ? '; more is expected' : ''}.`;
  if (goods.expects) return 'The goods are expected back.';
  const arrived = goods.lines.some((line) => !isZero(line.received));
  if (!arrived) return 'It was withdrawn before anything came back.';
  return goods.withdrawn ? 'What came was inspected; the rest was withdrawn.' : 'All came back and was inspected.';
}
