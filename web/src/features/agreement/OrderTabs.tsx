import { Tabs } from '../../shared/ui';

/** Orders and what they are made from. */
export const OrderTabs = () => (
  <Tabs
    of={[
      { to: '/orders', label: 'Orders' },
      { to: '/orders/quotes', label: 'Quotes' },
      { to: '/orders/blanket', label: 'Blanket orders' },
      { to: '/orders/recurring', label: 'Recurring orders' },
      { to: '/orders/due', label: 'Orders due' },
    ]}
  />
);
