import { infiniteQueryOptions, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { answer, client, type Schemas } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { currency } from '../../shared/currency';
import { date, figure, isZero, orDash } from '../../shared/format';
import { DataList } from '../../shared/list/DataList';
import { present } from '../../shared/present';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, OfTab, Tabs, Waiting } from '../../shared/ui';
import { Table } from '../../shared/ui/Table';
import { AccountSheet, Days, PostedFor } from './AccountSheet';
import { ManualEntry, Periods, PostingMap } from './Keeping';

type Filter = { document?: string; account?: string; from?: string; to?: string };

const entriesQuery = (filter: Filter) =>
  infiniteQueryOptions({
    queryKey: keyOf('ledger', 'entries', filter),
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/ledger/entries', { params: { query: { ...filter, after: pageParam } } })),
    ...pages,
  });

/** Balances, the journal and the posting map. */
export function LedgerPage() {
  const { tab = 'balances' } = useParams();
  const [search] = useSearchParams();
  if (tab === 'journal' && !ASKED.some((name) => search.has(name)))
    return (
      <DataList name="journal-entries" top={<LedgerTabs />} place={(row) => `/ledger/journal?entry=${row.opens}`} />
    );
  return (
    <div className="page">
      <div className="page-scroll">
        <LedgerTabs />
        <OfTab
          tab={tab}
          of={{
            balances: <Balances />,
            journal: <Journal />,
            account: <AccountSheet />,
            'manual-entry': <ManualEntry />,
            'posting-map': <PostingMap />,
            periods: <Periods />,
          }}
        />
      </div>
    </div>
  );
}

/** What narrows the journal to entries that are shown line by line. */
const ASKED = ['entry', 'document', 'account'];

function LedgerTabs() {
  return (
    <Tabs
      of={[
        { to: '/ledger', label: 'Balances' },
        { to: '/ledger/journal', label: 'Journal' },
        { to: '/ledger/account', label: 'Account sheet' },
        { to: '/ledger/manual-entry', label: 'Manual entry' },
        { to: '/ledger/posting-map', label: 'Posting map' },
        { to: '/ledger/periods', label: 'Periods' },
      ]}
    />
  );
}

function Balances() {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  const from = search.get('from') ?? `${today.slice(0, 8)}01`;
  const to = search.get('to') ?? today;
  const [moved, setMoved] = useState(true);
  const query = useQuery({
    queryKey: keyOf('ledger', 'balances', from, to),
    queryFn: () => answer(client.GET('/api/ledger/balances', { params: { query: { from, to } } })),
  });
  return (
    <>
      <div className="page-head">
        <h1>Balances</h1>
        <span className="muted nowrap whole">
          <label className="before-18">
            <input type="checkbox" checked={moved} onChange={(event) => setMoved(event.target.checked)} /> movements
            between
          </label>
          <Days from={from} to={to} onChange={(changed) => setSearch(changed, { replace: true })} />
        </span>
      </div>
      {!query.data ? (
        <Waiting query={query} />
      ) : (
        <Table
          caption="Balances"
          of={query.data.rows.filter((row) => !moved || !isZero(row.debit) || !isZero(row.credit))}
          keyOf={(row) => row.account}
          columns={[
            {
              head: 'Account',
              className: 'wide-60',
              cell: (row) => (
                <Link className="mono" to={`/ledger/account?account=${row.account}&from=${from}&to=${to}`}>
                  {row.account}
                </Link>
              ),
            },
            { cell: (row) => row.name },
            { head: <>Before {currency()}</>, num: true, cell: (row) => orDash(row.opening) },
            { head: <>Debit {currency()}</>, num: true, cell: (row) => orDash(row.debit) },
            { head: <>Credit {currency()}</>, num: true, cell: (row) => orDash(row.credit) },
            { head: <>After {currency()}</>, num: true, className: 'strong', cell: (row) => orDash(row.closing) },
          ]}
        />
      )}
      {query.data?.rows.length === 0 && <Empty>Nothing posted by that date.</Empty>}
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
    queryKey: keyOf('ledger', 'entry', entry),
    queryFn: () =>
      answer(
        client.GET('/api/ledger/entries/{number}', { params: { path: { number: present(entry, 'the number') } } }),
      ),
    enabled: !!entry,
  });
  const list = useInfiniteQuery({ ...entriesQuery(filter), enabled: !entry });
  const rows = entry ? (one.data ? [one.data] : []) : (list.data?.pages.flatMap((page) => page.rows) ?? []);
  const narrowed = entry
    ? `entry ${entry}`
    : filter.document
      ? `of ${filter.document}`
      : filter.account
        ? `on account ${filter.account}`
        : '';
  if (entry ? !one.data : !list.data) return <Waiting query={entry ? one : list} />;
  return (
    <>
      <div className="page-head">
        <h1>Journal {narrowed}</h1>
        {narrowed && <Link to="/ledger/journal">all entries</Link>}
      </div>
      <Table
        caption="Journal"
        of={rows.flatMap((entry) => entry.lines.map((line, index) => ({ entry, line, index })))}
        keyOf={({ entry, index }) => `${entry.number} ${index}`}
        rowOf={({ entry, index }) => ({
          style: index < entry.lines.length - 1 ? { borderBottom: '0' } : undefined,
        })}
        columns={[
          { head: 'Date', className: 'nowrap', beside, cell: ({ entry }) => date(entry.date) },
          {
            head: 'Entry',
            beside,
            cell: ({ entry }) => (
              <>
                <Link className="mono" to={`/ledger/journal?entry=${entry.number}`} title={`hash ${entry.hash}`}>
                  {entry.number}
                </Link>
                <div className="muted small">{entry.event}</div>
              </>
            ),
          },
          {
            head: 'Document',
            beside,
            cell: ({ entry }) => (
              <>
                <PostedFor kind={entry.documentKind} number={entry.documentNumber} />
                <div className="muted small">{entry.customerName}</div>
              </>
            ),
          },
          {
            head: 'Account',
            cell: ({ line }) => (
              <>
                <span className="mono muted small">{line.account}</span> {line.accountName}
              </>
            ),
          },
          { head: <>Debit {currency()}</>, num: true, cell: ({ line }) => orDash(line.debit) },
          { head: <>Credit {currency()}</>, num: true, cell: ({ line }) => orDash(line.credit) },
        ]}
      />
      {rows.length === 0 && (
        <Empty>No entries match. Orders, reservations, staging and cancellations post nothing.</Empty>
      )}
      {!entry && <More query={list} />}
      {entry && one.data && <Explanation entry={one.data} />}
    </>
  );
}

/** How each account of an entry was found, and its place in the chain. */
function Explanation({ entry }: { entry: Schemas['EntryView'] }) {
  const told = entry.lines.filter((line) => line.explained.length > 0);
  return (
    <section className="above-22">
      <h2>Posting row used</h2>
      {told.length === 0 && (
        <div className="muted">
          {entry.mirrors
            ? 'A reversal uses the accounts of the entry it reverses.'
            : 'A manual entry names its accounts.'}
        </div>
      )}
      {told.length > 0 && (
        <Table
          caption="Posting row used"
          className="up-to-900"
          of={told.flatMap((line) => line.explained.map((use, index) => ({ line, use, index })))}
          keyOf={({ line, index }) => `${line.account} ${line.role} ${index}`}
          columns={[
            {
              head: 'Account',
              cell: ({ line, index }) =>
                index === 0 && (
                  <>
                    <span className="mono muted small">{line.account}</span> {line.accountName}
                  </>
                ),
            },
            { head: 'Matched on', cell: ({ use }) => use.asked || <span className="muted">default row</span> },
            { head: 'Row used', cell: ({ use }) => use.row },
            { head: <>Amount {currency()}</>, num: true, cell: ({ use }) => figure(use.amount) },
          ]}
        />
      )}
      {entry.remark && (
        <p>
          {entry.documentKind === 'MANUAL_ENTRY' ? 'Reason' : 'It'}: {entry.remark}
        </p>
      )}
      {entry.mirrors && (
        <p>
          Reverses entry <Doc kind="ENTRY" number={entry.mirrors} />.
        </p>
      )}
      {entry.mirroredBy && (
        <p>
          Entry <Doc kind="ENTRY" number={entry.mirroredBy} /> reverses it.
        </p>
      )}
      <p className="muted small mono breaks">
        hash {entry.hash}
        <br />
        before it {entry.previousHash}
      </p>
    </section>
  );
}

/** What is told of an entry once stands beside all of its lines. */
const beside = ({ entry, index }: { entry: Schemas['EntryView']; index: number }) =>
  index === 0 ? entry.lines.length : 0;
