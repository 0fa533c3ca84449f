import { currency } from '../../shared/currency';
import { figure, orDash } from '../../shared/format';
import { useSession } from '../../shared/session';
import { Mark } from '../../shared/ui';
import { NamedList } from '../../shared/ui/NamedList';
import { customersQuery } from './api';

/** All customers by name, with where they stand. */
export function CustomerListPage() {
  const business = useSession().reads('SELLING');
  return (
    <NamedList
      title="Customers"
      place="/customers"
      search="Name, town or code"
      load={customersQuery}
      none={{ found: 'No customer matches.', there: 'No customers yet.' }}
      head={
        <>
          <th>Customer</th>
          <th>Town</th>
          <th>Code</th>
          {business && <th className="num">Exposure {currency()}</th>}
          <th className="num">Limit {currency()}</th>
          {business && <th className="num">Open orders</th>}
          {business && <th className="num">held</th>}
          <td />
        </>
      }
      cells={(row) => (
        <>
          <td>{row.town}</td>
          <td className="mono">{row.code}</td>
          {business && <td className="num">{figure(row.exposure)}</td>}
          <td className="num">{row.limit == null ? 'none' : figure(row.limit)}</td>
          {business && <td className="num">{orDash(String(row.open ?? 0))}</td>}
          {business && <td className="num">{orDash(String(row.held ?? 0))}</td>}
          <td className="nowrap">
            {row.blocked && (
              <>
                <Mark of="stop" />
                blocked
              </>
            )}
          </td>
        </>
      )}
    />
  );
}
