import { Link } from 'react-router';
import { date } from '../../shared/format';
import { DataList, textIn } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { Mark } from '../../shared/ui';
import { OrderTabs } from './OrderTabs';
import { WORDS, type Kind } from './api';

const VIEWS: Record<Kind, string> = {
  QUOTE: 'quotes',
  BLANKET_ORDER: 'blanket-orders',
  RECURRING_ORDER: 'recurring-orders',
};

/** Quotes, blanket orders or recurring orders; or, of all of them, those of which an order is due. */
export function AgreementListPage({ kind }: { kind?: Kind }) {
  const { today } = useSession();
  return (
    <DataList
      name="agreements"
      first={kind ? VIEWS[kind] : 'due'}
      isAbout
      tabs={<OrderTabs />}
      place={(row) => `/orders/agreements/${row.opens}`}
      className={(row) => (['LOST', 'ENDED'].includes(textIn(row, 'state')) ? 'dropped' : '')}
      cell={(column, row) => {
        const due = textIn(row, 'nextDue');
        return column === 'nextDue' && due !== '' && due <= today && textIn(row, 'state') === 'OPEN' ? (
          <span className="nowrap">
            <Mark of="caution" />
            {due === today ? 'today' : date(due)}
          </span>
        ) : undefined;
      }}
      bar={
        kind && (
          <Link className="button first" to={`/orders/agreements/new?kind=${kind}`}>
            New {WORDS[kind].one}
          </Link>
        )
      }
    />
  );
}
