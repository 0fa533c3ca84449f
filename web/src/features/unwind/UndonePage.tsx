import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { answer, client, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { currency } from '../../shared/currency';
import { capital, date, figure, Words } from '../../shared/format';
import { useGo } from '../../shared/navigation';
import { SelectAll, SelectOne, useSelection } from '../../shared/selection';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, OfTab, Tabs, Waiting } from '../../shared/ui';
import { DayInput, DayRange } from '../../shared/ui/DayInput';
import { Choice, TextLine } from '../../shared/ui/fields';
import { WaitingPlan } from './ToDo';
import { UndoTogether, type Alike } from './Together';

const TABS = [
  { to: '/undone', label: 'Plans waiting' },
  { to: '/undone/done', label: 'Unwound documents' },
  { to: '/undone/report', label: 'Report' },
  { to: '/undone/leftovers', label: 'Remainders to cancel' },
];

/** All that was undone and all that still waits; and leftovers of many orders given up at once. */
export function UndonePage() {
  const { tab = 'waiting' } = useParams();
  return (
    <div className="page">
      <div className="page-scroll">
        <Tabs of={TABS} />
        <OfTab
          tab={tab}
          of={{
            waiting: <Plans key="waiting" waiting />,
            done: <Plans key="done" waiting={false} />,
            report: <Report />,
            leftovers: <Leftovers />,
          }}
        />
      </div>
    </div>
  );
}

function Plans({ waiting }: { waiting: boolean }) {
  const query = useInfiniteQuery({
    queryKey: keyOf('unwind', 'all', waiting),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/unwind/done', { params: { query: { waiting, after: pageParam } } })),
    ...pages,
  });
  if (!query.data) return <Waiting query={query} />;
  const rows = query.data.pages.flatMap((page) => page.rows);
  if (rows.length === 0) return <Empty>{waiting ? 'No plans are waiting.' : 'Nothing unwound yet.'}</Empty>;
  if (waiting)
    return (
      <>
        <h1>
          {rows.length === 1 ? 'One plan waits' : `${rows.length}${query.hasNextPage ? ' and more' : ''} plans wait`}
        </h1>
        <div className="todo-grid">
          {rows.map((row) => (
            <div key={row.id}>
              <div className="small muted">
                {row.customerName}, since {date(row.since)}
              </div>
              <WaitingPlan plan={row} />
            </div>
          ))}
        </div>
        <More query={query} />
      </>
    );
  return (
    <>
      <table className="rows">
        <caption className="unseen">Unwound documents</caption>
        <thead>
          <tr>
            <th>Date</th>
            <th>What</th>
            <th>Customer</th>
            <th>Reason</th>
            <th>By</th>
            <th>State</th>
            <th className="num">Worth {currency()}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className={row.state === 'ABANDONED' ? 'dropped' : ''}>
              <td className="nowrap">{date(row.on)}</td>
              <td>
                {capital(row.words)} <Doc kind={row.kind} number={row.number} />
              </td>
              <td>{row.customerName}</td>
              <td className="breaks">{row.reason}</td>
              <td>{row.by}</td>
              <td className="nowrap">{Words(row.state)}</td>
              <td className="num">{figure(row.amount)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <More query={query} />
    </>
  );
}

const BY: [string, string][] = [
  ['reason', 'reason'],
  ['customer', 'customer'],
  ['writer', 'writer'],
  ['intent', 'done'],
];

/** Unwound documents over a time, as a table and as bars of the same figures. */
function Report() {
  const [search, setSearch] = useSearchParams();
  const by = search.get('by') ?? 'reason';
  const from = search.get('from') ?? undefined;
  const to = search.get('to') ?? undefined;
  const query = useQuery({
    queryKey: keyOf('unwind', 'report', by, from, to),
    queryFn: () => answer(client.GET('/api/unwind/report', { params: { query: { by, from, to } } })),
    placeholderData: (before) => before,
  });
  if (!query.data) return <Waiting query={query} />;
  const report = query.data;
  const set = (key: string, value: string) =>
    setSearch({ ...Object.fromEntries(search), [key]: value }, { replace: true });
  const most = Math.max(...report.rows.map((row) => Number(row.amount)), 1);
  return (
    <>
      <div className="page-head">
        <h1>
          {report.count === 0
            ? 'Nothing unwound'
            : `${currency()} ${figure(report.amount)} unwound in ${report.count} ${report.count === 1 ? 'case' : 'cases'}`}
          , {date(report.from)} to {date(report.to)}
        </h1>
      </div>
      <div className="filters">
        by{' '}
        <Choice aria-label="By" value={by} onChange={(to) => set('by', to)}>
          {BY.map(([code, label]) => (
            <option key={code} value={code}>
              {label}
            </option>
          ))}
        </Choice>{' '}
        <DayRange from={report.from} to={report.to} onChange={set} />
      </div>
      {report.rows.length === 0 && <Empty>Nothing unwound between these dates. Cancelled plans are not counted.</Empty>}
      {report.rows.length > 0 && (
        <table className="rows">
          <caption className="unseen">Unwound documents by reason</caption>
          <thead>
            <tr>
              <th className="wide-26pc">{capital(BY.find(([code]) => code === by)?.[1] ?? by)}</th>
              <th className="num">Cases</th>
              <th className="num">Worth {currency()}</th>
              <td className="wide-48pc" />
            </tr>
          </thead>
          <tbody>
            {report.rows.map((row) => (
              <tr key={row.key}>
                <td>{capital(row.words)}</td>
                <td className="num">{row.count}</td>
                <td className="num">{figure(row.amount)}</td>
                <td aria-hidden>
                  <span className="bar-of" style={{ width: `${(Number(row.amount) / most) * 100}%` }} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

type Row = Schemas['LeftoverRow'];

const LEFTOVERS: Alike = {
  kind: 'ORDER',
  intent: 'cancel-rest',
  one: 'order',
  many: 'orders',
  reason: 'leftover',
};

/** What nobody waits for any more: listed, filtered, selected, looked at together and given up with one reason. */
function Leftovers() {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  const before = search.get('before') ?? undefined;
  const partShipped = search.get('partShipped') === 'true';
  const customer = search.get('customer') ?? undefined;
  const navigate = useGo();
  const query = useInfiniteQuery({
    queryKey: keyOf('unwind', 'leftovers', before, partShipped, customer),
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/unwind/leftovers', { params: { query: { before, partShipped, customer, after: pageParam } } }),
      ),
    ...pages,
  });
  const rows = query.data?.pages.flatMap((page) => page.rows) ?? [];
  const selection = useSelection<Row>(
    rows,
    (row) => row.order,
    (row) => navigate(`/orders/${row.order}`),
  );
  const [asking, setAsking] = useState(false);
  const set = (key: string, value: string | undefined) => {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    setSearch(next, { replace: true });
    selection.none();
  };
  if (!query.data) return <Waiting query={query} />;
  return (
    <>
      <div className="page-head">
        <h1>
          {rows.length === 0
            ? 'No remainders'
            : `${rows.length}${query.hasNextPage ? ' and more' : ''} orders with an open remainder`}
        </h1>
      </div>
      <div className="filters">
        <span>
          ordered before{' '}
          <DayInput
            label="Ordered before"
            className="cell-input"
            style={{ width: 110, display: 'inline-block' }}
            value={before ?? ''}
            max={today}
            optional
            onChange={(day) => set('before', day)}
          />
        </span>{' '}
        <label>
          <input
            type="checkbox"
            checked={partShipped}
            onChange={(event) => set('partShipped', event.target.checked ? 'true' : undefined)}
          />{' '}
          only part shipped
        </label>{' '}
        <TextLine
          className="cell-input wide-130"
          aria-label="Customer"
          placeholder="customer"
          value={customer ?? ''}
          onChange={(to) => set('customer', to)}
        />
      </div>
      {rows.length > 0 && (
        <table className="rows">
          <caption className="unseen">Orders with goods left to ship</caption>
          <thead>
            <tr>
              <SelectAll selection={selection} />
              <th>Order</th>
              <th>Customer</th>
              <th>Customer PO</th>
              <th>Ordered</th>
              <th>Requested</th>
              <th>Shipped</th>
              <th className="num">Open, gross {currency()}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr key={row.order} className={index === selection.at ? 'at' : ''}>
                <SelectOne selection={selection} row={row} name={row.order} />
                <td>
                  <Doc kind="ORDER" number={row.order} />
                </td>
                <td>{row.customerName}</td>
                <td className="mono">{row.po}</td>
                <td className="nowrap">{date(row.orderedOn)}</td>
                <td className="nowrap">{date(row.requestedOn)}</td>
                <td>{row.partShipped ? 'in part' : 'nothing'}</td>
                <td className="num">{figure(row.openGross)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <More query={query} />
      {selection.chosen.length > 0 && (
        <div className="bar" style={{ position: 'sticky', bottom: -24, margin: '12px -22px -24px' }}>
          <button className="button first" onClick={() => setAsking(true)}>
            Cancel the rest of {selection.chosen.length} selected
          </button>
          <button className="plain" onClick={selection.none}>
            Select none
          </button>
        </div>
      )}
      {asking && (
        <UndoTogether
          of={LEFTOVERS}
          numbers={selection.chosen.map((row) => row.order)}
          onClose={() => setAsking(false)}
          onDone={() => {
            setAsking(false);
            selection.none();
          }}
        />
      )}
    </>
  );
}
