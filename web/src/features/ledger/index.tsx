import { infiniteQueryOptions, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useParams, useSearchParams } from 'react-router';
import { Link } from 'react-router';
import { answer, client, type Schemas } from '../../shared/api/http';
import { pages } from '../../shared/api/pages';
import { date, orDash, words } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, Tabs, Waiting } from '../../shared/ui';

type Filter = { document?: string; account?: string; from?: string; to?: string };

const entriesQuery = (filter: Filter) =>
  infiniteQueryOptions({
    queryKey: ['ledger', 'entries', filter],
    queryFn: ({ pageParam }) => answer(client.GET('/api/ledger/entries', { params: { query: { ...filter, after: pageParam } } })),
    ...pages,
  });

/** Balances, the journal and the posting map. */
export function LedgerPage() {
  const { tab = 'balances' } = useParams();
  return (
    <div className="page">
      <div className="page-scroll">
        <Tabs
          of={[
            { to: '/ledger', label: 'Balances' },
            { to: '/ledger/journal', label: 'Journal' },
            { to: '/ledger/posting-map', label: 'Posting map' },
          ]}
        />
        {tab === 'balances' ? <Balances /> : tab === 'journal' ? <Journal /> : <PostingMap />}
      </div>
    </div>
  );
}

function Balances() {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  const from = search.get('from') ?? `${today.slice(0, 8)}01`;
  const to = search.get('to') ?? today;
  const query = useQuery({
    queryKey: ['ledger', 'balances', from, to],
    queryFn: () => answer(client.GET('/api/ledger/balances', { params: { query: { from, to } } })),
  });
  const day = (key: string, value: string) => (
    <input
      type="date"
      aria-label={key}
      className="cell-input"
      style={{ width: 130, borderBottomColor: 'var(--rule-strong)' }}
      value={value}
      onChange={(event) => {
        const changed = new URLSearchParams({ from, to });
        if (event.target.value) changed.set(key, event.target.value);
        setSearch(changed, { replace: true });
      }}
    />
  );
  return (
    <>
      <div className="page-head">
        <h1>Balances</h1>
        <span className="muted">
          from {day('from', from)} to {day('to', to)}
        </span>
      </div>
      {!query.data ? (
        <Waiting query={query} />
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th>Account</th>
              <th />
              <th className="num">Before €</th>
              <th className="num">Debit €</th>
              <th className="num">Credit €</th>
              <th className="num">After €</th>
            </tr>
          </thead>
          <tbody>
            {query.data.rows.map((row) => (
              <tr key={row.account}>
                <td style={{ width: 60 }}>
                  <Link className="mono" to={`/ledger/journal?account=${row.account}&from=${from}&to=${to}`}>
                    {row.account}
                  </Link>
                </td>
                <td>{row.name}</td>
                <td className="num">{orDash(row.opening)}</td>
                <td className="num">{orDash(row.debit)}</td>
                <td className="num">{orDash(row.credit)}</td>
                <td className="num strong">{orDash(row.closing)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {query.data?.rows.length === 0 && <Empty>Nothing was posted by then.</Empty>}
    </>
  );
}

function Journal() {
  const [search] = useSearchParams();
  const entry = search.get('entry');
  const filter: Filter = {
    document: search.get('document') ?? undefined,
    account: search.get('account') ?? undefined,
    from: search.get('from') ?? undefined,
    to: search.get('to') ?? undefined,
  };
  const one = useQuery({
    queryKey: ['ledger', 'entry', entry],
    queryFn: () => answer(client.GET('/api/ledger/entries/{number}', { params: { path: { number: entry! } } })),
    enabled: !!entry,
  });
  const list = useInfiniteQuery({ ...entriesQuery(filter), enabled: !entry });
  const rows = entry ? (one.data ? [one.data] : []) : (list.data?.pages.flatMap((page) => page.rows) ?? []);
  const narrowed = entry ? `entry ${entry}` : filter.document ? `of ${filter.document}` : filter.account ? `on account ${filter.account}` : '';
  if (entry ? !one.data : !list.data) return <Waiting query={entry ? one : list} />;
  return (
    <>
      <div className="page-head">
        <h1>Journal {narrowed}</h1>
        {narrowed && <Link to="/ledger/journal">all entries</Link>}
      </div>
      <table className="rows">
        <thead>
          <tr>
            <th>Date</th>
            <th>Entry</th>
            <th>Document</th>
            <th>Account</th>
            <th className="num">Debit €</th>
            <th className="num">Credit €</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <EntryRows key={row.number} entry={row} />
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <Empty>No entry is like that. Orders, reservations, staging and cancellations post nothing.</Empty>}
      {!entry && <More query={list} />}
    </>
  );
}

function EntryRows({ entry }: { entry: Schemas['EntryView'] }) {
  return entry.lines.map((line, index) => (
    <tr key={line.account + index} style={index < entry.lines.length - 1 ? { borderBottom: '0' } : undefined}>
      {index === 0 && (
        <>
          <td rowSpan={entry.lines.length} className="nowrap">
            {date(entry.date)}
          </td>
          <td rowSpan={entry.lines.length}>
            <span className="mono" title={`hash ${entry.hash}`}>
              {entry.number}
            </span>
            <div className="muted small">{entry.event}</div>
          </td>
          <td rowSpan={entry.lines.length}>
            {entry.documentKind === 'STOCK_RECEIPT' ? <span className="mono">{entry.documentNumber}</span> : <Doc kind={entry.documentKind} number={entry.documentNumber} />}
            <div className="muted small">{entry.customerName}</div>
          </td>
        </>
      )}
      <td>
        <span className="mono muted small">{line.account}</span> {line.accountName}
      </td>
      <td className="num">{orDash(line.debit)}</td>
      <td className="num">{orDash(line.credit)}</td>
    </tr>
  ));
}

function PostingMap() {
  const query = useQuery({ queryKey: ['ledger', 'map'], queryFn: () => answer(client.GET('/api/ledger/posting-map')) });
  if (!query.data) return <Waiting query={query} />;
  const any = (text: string) => text || <span className="muted">any</span>;
  return (
    <>
      <div className="page-head">
        <h1>Which account a role is posted to</h1>
        <span className="muted">The most specific row that fits wins.</span>
      </div>
      <table className="rows">
        <thead>
          <tr>
            <th>Role</th>
            <th>Customer class</th>
            <th>Item class</th>
            <th>Site</th>
            <th>VAT</th>
            <th>Account</th>
          </tr>
        </thead>
        <tbody>
          {query.data.map((row, index) => (
            <tr key={index}>
              <td>{words(row.role)}</td>
              <td>{any(row.customerClass)}</td>
              <td>{any(row.itemClass)}</td>
              <td>{any(row.site)}</td>
              <td>{any(row.vat)}</td>
              <td>
                <span className="mono muted small">{row.account}</span> {row.accountName}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
