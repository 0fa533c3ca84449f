import { useParams } from 'react-router';
import { OfTab } from '../../shared/ui';
import { Ageing } from './Ageing';
import { BankPage } from './Bank';
import { BillingTabs } from './BillingTabs';
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
        <BillingTabs />
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
