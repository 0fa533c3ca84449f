import { useParams } from 'react-router';
import { OfTab, Tabs } from '../../shared/ui';
import { Ageing } from './Ageing';
import { BankPage } from './Bank';
import { CreditNotes } from './CreditNote';
import { Deposits } from './Deposits';
import { DirectInvoice } from './DirectInvoice';
import { Disputes } from './Disputes';
import { Invoices } from './Invoices';
import { Overdue } from './Overdue';
import { Payments } from './Payments';
import { RecordPayment } from './RecordPayment';
import { Refunds } from './Refunds';
import { ToBill } from './ToBill';
import { WriteOffs } from './WriteOffs';

/** What is to be billed, what was, and the money that came in. */
export function BillingPage() {
  const { tab = 'to-bill' } = useParams();
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">
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
          ]}
        />
      </div>
      <OfTab
        tab={tab}
        of={{
          'to-bill': <ToBill />,
          invoices: <Invoices />,
          'credit-notes': <CreditNotes />,
          overdue: <Overdue />,
          ageing: <Ageing />,
          disputes: <Disputes />,
          receive: <RecordPayment />,
          bank: <BankPage />,
          payments: <Payments />,
          deposits: <Deposits />,
          refunds: <Refunds />,
          'write-offs': <WriteOffs />,
          direct: <DirectInvoice />,
        }}
      />
    </div>
  );
}
