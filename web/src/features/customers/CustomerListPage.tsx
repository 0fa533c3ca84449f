import { currency } from '../../shared/currency';
import { figure } from '../../shared/format';
import { Mark } from '../../shared/ui';
import { NamedList } from '../../shared/ui/NamedList';
import { customersQuery } from './api';

/** All customers by name, with where they stand. */
export function CustomerListPage() {
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
          <th className="num">Exposure {currency()}</th>
          <th className="num">Limit {currency()}</th>
          <th className="num">Open orders</th>
          <th className="num">held</th>
          <th />
        </>
      }
      cells={(row) => (
        <>
          <td>{row.town}</td>
          <td className="mono">{row.code}</td>
          <td className="num">{figure(row.exposure)}</td>
          <td className="num">{row.limit == null ? 'none' : figure(row.limit)}</td>
          <td className="num">{row.open || '–'}</td>
          <td className="num">{row.held || '–'}</td>
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
