import { Link } from 'react-router';
import { Words } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { useGo } from '../../shared/navigation';
import { Mark } from '../../shared/ui';
import { OrderTabs } from '../agreement';
import { PrintBar } from '../paper';

/** All orders, newest first unless asked otherwise. */
export function OrderListPage() {
  const go = useGo();
  return (
    <DataList
      name="orders"
      tabs={<OrderTabs />}
      cell={(column, row) =>
        column === 'state' ? (
          <>
            {textIn(row, 'state') === 'HELD' && <Mark of="stop" />}
            {Words(textIn(row, 'state'))}
          </>
        ) : undefined
      }
      className={(row) => (['CANCELLED', 'DECLINED'].includes(textIn(row, 'state')) ? 'dropped' : '')}
      keys={{ t: (row) => row.opens && go(`/trail/ORDER/${row.opens}`) }}
      selected={(chosen) => (
        <PrintBar paper="ORDER_CONFIRMATION" numbers={chosen.map((row) => row.opens)}>
          <Link className="button first" to="/orders/new">
            New order <kbd>N</kbd>
          </Link>
          <Link className="button" to="/orders/import">
            Import a file
          </Link>
        </PrintBar>
      )}
    />
  );
}
