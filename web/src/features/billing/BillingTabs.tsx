import { Tabs } from '../../shared/ui';

/** The pages about what is billed and the money for it. */
export function BillingTabs() {
  return (
    <Tabs
      of={[
        { to: '/billing', label: 'To bill' },
        { to: '/billing/invoices', label: 'Invoices' },
        { to: '/billing/credit-notes', label: 'Credit notes' },
        { to: '/billing/overdue', label: 'Past due' },
        { to: '/billing/ageing', label: 'By age' },
        { to: '/billing/disputes', label: 'Disputes' },
        { to: '/billing/receive', label: 'Record a payment' },
        { to: '/billing/bank', label: 'Bank' },
        { to: '/billing/payments', label: 'Payments' },
        { to: '/billing/deposits', label: 'Deposits' },
        { to: '/billing/refunds', label: 'Refunds' },
        { to: '/billing/write-offs', label: 'Write-offs' },
        { to: '/billing/registers', label: 'Registers', within: true },
        { to: '/billing/balances', label: 'As of a day', within: true },
      ]}
    />
  );
}
