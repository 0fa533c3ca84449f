import { useParams } from 'react-router';
import { useSession } from '../../shared/session';
import { OfTab, Tabs } from '../../shared/ui';
import { Lanes, type Lane } from './Lanes';
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

const LANES: Record<string, Lane> = {
  expected: { lane: 'EXPECTED', title: 'Expected returns, oldest first', none: 'No returns expected.' },
  inspecting: { lane: 'INSPECTING', title: 'Received, to inspect', none: 'Nothing to inspect.' },
  'to-credit': { lane: 'TO_CREDIT', title: 'Received, not credited', none: 'No credits due.' },
  ahead: { lane: 'AHEAD', title: 'Credited ahead, not received', none: 'Nothing is credited ahead.' },
  all: { lane: undefined, title: 'All returns', none: 'No returns yet.' },
};

/** Goods that are to come back, that are here to be looked at, and all that ever did. */
export function ReturnsPage() {
  const { tab = 'expected' } = useParams();
  const { reads } = useSession();
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">
        <Tabs of={TABS.filter((one) => !one.priced || reads('SELLING'))} />
      </div>
      <OfTab
        tab={tab}
        of={{
          unexpected: <UnexpectedGoods />,
          rates: <Rates />,
          ...Object.fromEntries(Object.entries(LANES).map(([one, lane]) => [one, <Lanes key={one} of={lane} />])),
        }}
      />
    </div>
  );
}
