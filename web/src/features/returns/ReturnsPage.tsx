import { useParams } from 'react-router';
import { DataList } from '../../shared/list/DataList';
import { useSession } from '../../shared/session';
import { OfTab, Tabs } from '../../shared/ui';
import { Lanes, type Lane } from './Lanes';
import { UnexpectedGoods } from './Unexpected';

const TABS = [
  { to: '/returns', label: 'Expected back' },
  { to: '/returns/unexpected', label: 'Unexpected' },
  { to: '/returns/inspecting', label: 'In inspection' },
  { to: '/returns/to-credit', label: 'To credit', priced: true },
  { to: '/returns/ahead', label: 'Credited ahead', priced: true },
  { to: '/returns/all', label: 'All' },
  { to: '/returns/rates', label: 'Return rate' },
];

const LANES: Record<string, Lane> = {
  expected: { view: 'expected', reminds: true },
  inspecting: { view: 'to-inspect' },
  'to-credit': { view: 'to-credit' },
  ahead: { view: 'ahead', reminds: true },
  all: { view: '' },
};

/** Goods that are to come back, that are here to be looked at, and all that ever did. */
export function ReturnsPage() {
  const { tab = 'expected' } = useParams();
  const { reads } = useSession();
  const tabs = <Tabs of={TABS.filter((one) => !one.priced || reads('SELLING'))} />;
  if (tab === 'rates') return <DataList name="dispatch-lines" first="return-rate-item" isAbout top={tabs} />;
  const lane = LANES[tab];
  if (lane) return <Lanes of={lane} tabs={tabs} />;
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">{tabs}</div>
      <OfTab tab={tab} of={{ unexpected: <UnexpectedGoods /> }} />
    </div>
  );
}
