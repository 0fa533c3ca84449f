import { infiniteQueryOptions, queryOptions, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { pages } from '../../shared/api/pages';
import { currency } from '../../shared/currency';
import { date, figure, orDash } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, More, Waiting } from '../../shared/ui';
import { DayInput } from '../../shared/ui/DayInput';
import { Table } from '../../shared/ui/Table';
import { Choice } from '../../shared/ui/fields';

export const accountsQuery = queryOptions({
  queryKey: keyOf('ledger', 'accounts'),
  queryFn: () => answer(client.GET('/api/ledger/accounts')),
});

const sheetQuery = (account: string, from: string, to: string) =>
  infiniteQueryOptions({
    queryKey: keyOf('ledger', 'sheet', account, from, to),
    queryFn: ({ pageParam }) =>
      answer(
        client.GET('/api/ledger/accounts/{account}/sheet', {
          params: { path: { account }, query: { from, to, after: pageParam } },
        }),
      ),
    ...pages,
  });

/** Two days to choose. */
export function Days({
  from,
  to,
  onChange,
}: {
  from: string;
  to: string;
  onChange: (changed: URLSearchParams) => void;
}) {
  const day = (key: string, value: string) => (
    <DayInput
      label={key}
      className="cell-input"
      style={{ width: 110, display: 'inline-block' }}
      value={value}
      onChange={(chosen) => {
        const changed = new URLSearchParams(window.location.search);
        changed.set('from', from);
        changed.set('to', to);
        changed.set(key, chosen);
        onChange(changed);
      }}
    />
  );
  return (
    <>
      from {day('from', from)} to {day('to', to)}
    </>
  );
}

/** The first row of a table that runs a balance: what stood before its days. */
export function BroughtForward({ on, columns, balance }: { on: string; columns: number; balance: string }) {
  return (
    <tr>
      <td className="nowrap muted">{date(on)}</td>
      <td colSpan={columns - 2} className="muted">
        brought forward
      </td>
      <td className="num">{figure(balance)}</td>
    </tr>
  );
}

/** What moved an account between two days, with the balance behind each movement. */
export function AccountSheet() {
  const { today } = useSession();
  const [search, setSearch] = useSearchParams();
  const accounts = useQuery(accountsQuery);
  const from = search.get('from') ?? `${today.slice(0, 8)}01`;
  const to = search.get('to') ?? today;
  const account = search.get('account') ?? accounts.data?.find((one) => one.roles.includes('receivables'))?.code ?? '';
  const sheet = useInfiniteQuery({ ...sheetQuery(account, from, to), enabled: account !== '' });
  if (!accounts.data) return <Waiting query={accounts} />;
  const rows = sheet.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <>
      <div className="page-head">
        <h1>
          Account{' '}
          <Choice
            className="bare"
            aria-label="Account"
            value={account}
            onChange={(to) => {
              const changed = new URLSearchParams(search);
              changed.set('account', to);
              setSearch(changed, { replace: true });
            }}
          >
            {accounts.data.map((one) => (
              <option key={one.code} value={one.code}>
                {one.code} {one.name}
              </option>
            ))}
          </Choice>
        </h1>
        <span className="muted">
          <Days from={from} to={to} onChange={(changed) => setSearch(changed, { replace: true })} />
        </span>
      </div>
      {!sheet.data && <Waiting query={sheet} />}
      {sheet.data && (
        <Table
          caption="Account sheet"
          of={rows}
          keyOf={(row, index) => `${row.entry} ${index}`}
          before={<BroughtForward on={from} columns={7} balance={sheet.data.pages[0]?.opening ?? ''} />}
          columns={[
            { head: 'Date', className: 'nowrap', cell: (row) => date(row.date) },
            {
              head: 'Entry',
              cell: (row) => (
                <>
                  <Link className="mono" to={`/ledger/journal?entry=${row.entry}`}>
                    {row.entry}
                  </Link>{' '}
                  <span className="muted small">{row.event}</span>
                </>
              ),
            },
            { head: 'Document', cell: (row) => <PostedFor kind={row.documentKind} number={row.documentNumber} /> },
            { head: 'Customer', cell: (row) => row.customerName },
            { head: <>Debit {currency()}</>, num: true, cell: (row) => orDash(row.debit) },
            { head: <>Credit {currency()}</>, num: true, cell: (row) => orDash(row.credit) },
            { head: <>Balance {currency()}</>, num: true, className: 'strong', cell: (row) => figure(row.balance) },
          ]}
        />
      )}
      {sheet.data && rows.length === 0 && <Empty>No entries between these dates.</Empty>}
      <More query={sheet} />
    </>
  );
}

/** The document that an entry was posted for; some have no page of their own. */
export function PostedFor({ kind, number }: { kind: string; number: string }) {
  return ['STOCK_RECEIPT', 'STOCK_COUNT', 'MANUAL_ENTRY'].includes(kind) ? (
    <span className="mono">{number}</span>
  ) : (
    <Doc kind={kind} number={number} />
  );
}
