import { date } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { BillingTabs } from './BillingTabs';

/** Disputes, each of which opens its invoice; the open ones unless somebody sees others first. */
export function Disputes() {
  const { today } = useSession();
  return (
    <DataList
      name="disputes"
      first="open"
      top={<BillingTabs />}
      place={(row) => `/billing/invoice/${row.opens}`}
      className={(row) => (textIn(row, 'endedOn') === '' ? '' : 'dropped')}
      cell={(column, row) =>
        column === 'lookOn' && textIn(row, 'state') === 'OPEN' ? (
          <span className={textIn(row, 'lookOn') <= today ? 'error' : ''}>{date(textIn(row, 'lookOn'))}</span>
        ) : undefined
      }
    />
  );
}
