import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { answer, client } from '../../shared/api/http';
import { keyOf } from '../../shared/api/keyOf';
import { currency } from '../../shared/currency';
import { date, figure, trim } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Doc, Empty, Waiting } from '../../shared/ui';
import { DayRange } from '../../shared/ui/DayInput';
import { Choice } from '../../shared/ui/fields';

type By = 'ITEM' | 'CUSTOMER' | 'REASON';

type Grouping = { by: By; words: string; head: string; share: string };

const BY_ITEM: Grouping = { by: 'ITEM', words: 'item', head: 'Item', share: 'Share of shipments' };
const BY: Grouping[] = [
  BY_ITEM,
  { by: 'CUSTOMER', words: 'customer', head: 'Customer', share: 'Share of shipments' },
  { by: 'REASON', words: 'reason', head: 'Reason', share: 'Share of returns' },
];

/** How much of what left came back, as a table and as bars of the same figures. */
export function Rates() {
  const [search, setSearch] = useSearchParams();
  const at = BY.find((one) => one.by === search.get('by')) ?? BY_ITEM;
  const from = search.get('from') ?? undefined;
  const to = search.get('to') ?? undefined;
  const costs = useSession().reads('COSTS');
  const query = useQuery({
    queryKey: keyOf('return-rates', at.by, from, to),
    queryFn: () => answer(client.GET('/api/return-rates', { params: { query: { by: at.by, from, to } } })),
    placeholderData: (before) => before,
  });
  if (!query.data) return <Waiting query={query} />;
  const table = query.data;
  const set = (key: string, value: string) =>
    setSearch({ ...Object.fromEntries(search), [key]: value }, { replace: true });
  const most = Math.max(...table.rows.map((row) => Number(row.percent ?? 0)), 1);
  return (
    <div className="page-scroll inset-top-0">
      <div className="page-head">
        <h1>
          {table.rows.length === 0
            ? 'No returns'
            : costs
              ? `${currency()} ${figure(table.value)} at cost returned${table.percent ? `, ${trim(table.percent)} % of shipments` : ''}`
              : `${table.percent ? trim(table.percent) : '0'} % of shipments returned`}
          , {date(table.from)} to {date(table.to)}
        </h1>
      </div>
      <div className="filters">
        by{' '}
        <Choice aria-label="By" value={at.by} onChange={(to) => set('by', to)}>
          {BY.map((one) => (
            <option key={one.by} value={one.by}>
              {one.words}
            </option>
          ))}
        </Choice>{' '}
        <DayRange from={table.from} to={table.to} onChange={set} />
      </div>
      {table.rows.length === 0 && <Empty>No returns received between these dates.</Empty>}
      {table.rows.length > 0 && (
        <table className="rows">
          <caption className="unseen">Return rate</caption>
          <thead>
            <tr>
              <th className="wide-30pc">{at.head}</th>
              <th className="num">Returns</th>
              {at.by === 'ITEM' && <th className="num">Quantity</th>}
              {costs && <th className="num">Returned, at cost {currency()}</th>}
              {costs && at.by !== 'REASON' && <th className="num">Shipped, at cost {currency()}</th>}
              <th className="num">{at.share}</th>
              <td className="wide-26pc" />
            </tr>
          </thead>
          <tbody>
            {table.rows.map((row) => (
              <tr key={row.code}>
                <td>
                  {row.name}{' '}
                  {at.by !== 'REASON' && (
                    <span className="small">
                      <Doc kind={at.by} number={row.code} />
                    </span>
                  )}
                </td>
                <td className="num">{row.returns}</td>
                {at.by === 'ITEM' && <td className="num">{trim(row.quantity ?? '')}</td>}
                {costs && <td className="num">{figure(row.value)}</td>}
                {costs && at.by !== 'REASON' && <td className="num">{figure(row.left)}</td>}
                <td className="num">{row.percent ? `${row.percent} %` : '–'}</td>
                <td aria-hidden>
                  <span className="bar-of" style={{ width: `${(Number(row.percent ?? 0) / most) * 100}%` }} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="muted small">
        Goods received between these dates and not sent back to the customer, compared with goods shipped in the same
        period, so a rate can exceed 100 %. The fifty largest values.
      </p>
    </div>
  );
}
