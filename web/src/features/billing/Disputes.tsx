import { useInfiniteQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure } from '../../shared/format';
import { useCursor } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { useSession } from '../../shared/session';
import { Empty, More, Waiting } from '../../shared/ui';
import { disputesQuery } from './api';

/** Open disputes, those to look at longest first; each opens its invoice. */
export function Disputes() {
  const { today } = useSession();
  const navigate = useGo();
  const [search, setSearch] = useSearchParams();
  const toLookAt = search.get('toLookAt') === 'true';
  const list = useInfiniteQuery(disputesQuery(toLookAt));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at] = useCursor(rows, (row) => navigate(`/billing/invoice/${row.invoice}`));
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page-scroll inset-top-0">
      <div className="page-head">
        <h1>{toLookAt ? 'Disputes to look at' : 'Open disputes'}</h1>
        <label className="muted">
          <input
            type="checkbox"
            checked={toLookAt}
            onChange={(event) => setSearch(event.target.checked ? { toLookAt: 'true' } : {})}
          />{' '}
          only those whose day has come
        </label>
      </div>
      <table className="rows">
        <caption className="unseen">Open disputes</caption>
        <thead>
          <tr>
            <th>Invoice</th>
            <th>Customer</th>
            <th>What the customer does not agree with</th>
            <th>Owner</th>
            <th>Since</th>
            <th>Look again</th>
            <th className="num">Disputed {currency()}</th>
            <th className="num">Open {currency()}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <tr key={row.id} className={index === at ? 'at' : ''}>
              <td>
                <Link className="mono nowrap" to={`/billing/invoice/${row.invoice}`}>
                  {row.invoice}
                </Link>
              </td>
              <td>{row.customerName}</td>
              <td className="breaks">{row.reason}</td>
              <td>{row.owner}</td>
              <td className="nowrap">{date(row.openedOn)}</td>
              <td className={`nowrap${row.lookOn <= today ? ' error' : ''}`}>{date(row.lookOn)}</td>
              <td className="num">{figure(row.disputed)}</td>
              <td className="num">{figure(row.open)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <Empty>{toLookAt ? 'No dispute is to be looked at.' : 'Nothing is disputed.'}</Empty>}
      <More query={list} />
    </div>
  );
}
