import { useInfiniteQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { currency } from '../../shared/currency';
import { date, figure, Words } from '../../shared/format';
import { useCursor } from '../../shared/keys';
import { useGo } from '../../shared/navigation';
import { onRow } from '../../shared/rows';
import { Empty, Mark, More, Waiting } from '../../shared/ui';
import { Choice } from '../../shared/ui/fields';
import { OrderTabs } from '../agreement';
import { type OrderLane, ordersQuery, type OrderState } from './api';

const STATES: OrderState[] = ['DRAFT', 'HELD', 'CLEARED', 'COMPLETED', 'CLOSED_SHORT', 'CANCELLED', 'DECLINED'];

const LANES: Record<OrderLane, string> = {
  SENT_BACK: 'Orders sent back',
  LATE: 'Late orders',
  PART_SHIPPED: 'Part-shipped orders',
};

/** All orders, newest first, by state, customer or lane. */
export function OrderListPage() {
  const [search, setSearch] = useSearchParams();
  const state = (search.get('state') ?? undefined) as OrderState | undefined;
  const customer = search.get('customer') ?? undefined;
  const lane = (search.get('lane') ?? undefined) as OrderLane | undefined;
  const list = useInfiniteQuery(ordersQuery(state, customer, lane));
  const navigate = useGo();
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at, setAt] = useCursor(rows, (row) => navigate(`/orders/${row.number}`), {
    t: (row) => navigate(`/trail/ORDER/${row.number}`),
  });
  const choose = (to: string) => {
    const changed = new URLSearchParams(search);
    if (to) changed.set('state', to);
    else changed.delete('state');
    setSearch(changed);
    setAt(0);
  };
  if (!list.data) return <Waiting query={list} />;
  return (
    <div className="page">
      <div className="page-scroll">
        <div className="page-head">
          <h1>
            {lane ? LANES[lane] : 'Orders'}
            {state ? `, ${Words(state).toLowerCase()}` : ''}
            {customer ? ` of ${rows[0]?.customerName ?? customer}` : ''}
          </h1>
          <span>
            <Choice aria-label="State" value={state ?? ''} onChange={choose} className="cell-input wide-130">
              <option value="">any state</option>
              {STATES.map((s) => (
                <option key={s} value={s}>
                  {Words(s).toLowerCase()}
                </option>
              ))}
            </Choice>
          </span>
        </div>
        <OrderTabs />
        <table className="rows">
          <caption className="unseen">Orders</caption>
          <thead>
            <tr>
              <th>Order</th>
              <th>Customer</th>
              <th>Customer PO</th>
              <th>State</th>
              <th>Ordered</th>
              <th>Requested</th>
              <th className="num">Gross {currency()}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <tr
                key={row.number}
                className={`clickable${index === at ? ' at' : ''}${['CANCELLED', 'DECLINED'].includes(row.state) ? ' dropped' : ''}`}
                onClick={onRow(() => navigate(`/orders/${row.number}`))}
              >
                <td>
                  <Link className="mono" to={`/orders/${row.number}`}>
                    {row.number}
                  </Link>
                </td>
                <td>{row.customerName}</td>
                <td className="mono">{row.po}</td>
                <td>
                  {row.state === 'HELD' && <Mark of="stop" />}
                  {Words(row.state)}
                </td>
                <td className="nowrap">{date(row.orderedOn)}</td>
                <td className="nowrap">{date(row.requestedOn)}</td>
                <td className="num">{figure(row.gross)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <Empty>No orders match.</Empty>}
        <More query={list} />
      </div>
      <div className="bar">
        <Link className="button first" to="/orders/new">
          New order <kbd>N</kbd>
        </Link>
        <Link className="button" to="/orders/import">
          Import a file
        </Link>
      </div>
    </div>
  );
}
