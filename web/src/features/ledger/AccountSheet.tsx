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
        <table className="rows">
          <caption className="unseen">Account sheet</caption>
          <thead>
            <tr>
              <th>Date</th>
              <th>Entry</th>
              <th>Document</th>
              <th>Customer</th>
              <th className="num">Debit {currency()}</th>
              <th className="num">Credit {currency()}</th>
              <th className="num">Balance {currency()}</th>
            </tr>
          </thead>
          <tbody>
            <BroughtForward on={from} columns={7} balance={sheet.data.pages[0]?.opening ?? ''} />
            {rows.map((row, index) => (
              <tr key={`${row.entry} ${index}`}>
                <td className="nowrap">{date(row.date)}</td>
                <td>
                  <Link className="mono" to={`/ledger/journal?entry=${row.entry}`}>
                    {row.entry}
                  </Link>{' '}
                  <span className="muted small">{row.event}</span>
                </td>
                <td>
                  {['STOCK_RECEIPT', 'STOCK_COUNT', 'MANUAL_ENTRY'].includes(row.documentKind) ? (
                    <span className="mono">{row.documentNumber}</span>
                  ) : (
                    <Doc kind={row.documentKind} number={row.documentNumber} />
                  )}
                </td>
                <td>{row.customerName}</td>
                <td className="num">{orDash(row.debit)}</td>
                <td className="num">{orDash(row.credit)}</td>
                <td className="num strong">{figure(row.balance)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {sheet.data && rows.length === 0 && <Empty>No entries between these dates.</Empty>}
      <More query={sheet} />
    </>
  );
}
