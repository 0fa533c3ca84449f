import type { ComponentType } from 'react';
import { useParams } from 'react-router';
import { OfTab } from '../../shared/ui';
import { Ageing, Overdue } from './Ageing';
import { BankPage } from './Bank';
import { BillingTabs } from './BillingTabs';
import { CreditNotes } from './CreditNote';
import { Deposits } from './Deposits';
import { DirectInvoice } from './DirectInvoice';
import { Disputes } from './Disputes';
import { Invoices } from './Invoices';
import { Payments } from './Payments';
import { RecordPayment } from './RecordPayment';
import { Refunds } from './Refunds';
import { ToBill } from './ToBill';
import { WriteOffs } from './WriteOffs';

/** Those that the server declares; each is a page of its own. */
const LISTS: Record<string, ComponentType> = {
  'to-bill': ToBill,
  invoices: Invoices,
  'credit-notes': CreditNotes,
  overdue: Overdue,
  ageing: Ageing,
  disputes: Disputes,
  payments: Payments,
  deposits: Deposits,
  refunds: Refunds,
  'write-offs': WriteOffs,
};

/** What is to be billed, what was, and the money that came in. */
export function BillingPage() {
  const { tab = 'to-bill' } = useParams();
  const List = LISTS[tab];
  if (List) return <List key={tab} />;
  return (
    <div className="page">
      <div className="page-scroll inset-bottom-0 grows-0-0-auto">
        <BillingTabs />
      </div>
      <OfTab
        tab={tab}
        of={{
          receive: <RecordPayment />,
          bank: <BankPage />,
          direct: <DirectInvoice />,
        }}
      />
    </div>
  );
}
