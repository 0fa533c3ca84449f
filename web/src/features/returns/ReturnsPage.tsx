import { useParams } from 'react-router';
import { useSession } from '../../shared/session';
import { Tabs } from '../../shared/ui';
import { Lanes } from './Lanes';
import { Rates } from './Rates';
import { UnexpectedGoods } from './Unexpected';

const TABS = [
  { to: '/returns', label: 'Expected back' },
  { to: '/returns/unexpected', label: 'Unexpected' },
  { to: '/returns/inspecting', label: 'In inspection' },
  { to: '/returns/to-credit', label: 'To credit', priced: true },
  { to: '/returns/ahead', label: 'Credited ahead', priced: true },
  { to: '/returns/all', label: 'All' },
  { to: '/returns/rates', label: 'Return rate', priced: true },
];

/** Goods that are to come back, that are here to be looked at, and all that ever did. */
export function ReturnsPage() {
  const { tab = 'expected' } = useParams();
  const { reads } = useSession();
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">
        <Tabs of={TABS.filter((one) => !one.priced || reads('SELLING'))} />
      </div>
      {tab === 'unexpected' ? <UnexpectedGoods /> : tab === 'rates' ? <Rates /> : <Lanes key={tab} tab={tab} />}
    </div>
  );
}
