import { createBrowserRouter, Navigate } from 'react-router';
import { BatchListPage, BatchPage } from '../features/batch';
import { BillingPage, CorrectPage, CreditNotePage, DepositPage, InvoicePage, PaymentPage } from '../features/billing';
import { CustomerListPage, CustomerPage } from '../features/customers';
import { GoodsPage } from '../features/goods';
import { IntakePage } from '../features/intake';
import { ItemListPage, ItemPage } from '../features/items';
import { LedgerPage } from '../features/ledger';
import { OrderEntryPage, OrderListPage, OrderPage } from '../features/order';
import { OutlineEntryPage, OutlineListPage, OutlinePage } from '../features/outline';
import { OutboxPage } from '../features/outbox';
import { ProofPage } from '../features/proof';
import { ReviewPage, TogetherPage } from '../features/review';
import { RulesPage } from '../features/rules';
import { TodayPage } from '../features/today';
import { TrailPage } from '../features/trail';
import { AuthorisePage, ReturnPage, ReturnsPage } from '../features/returns';
import { UndonePage, UnwindPage } from '../features/unwind';
import { Empty } from '../shared/ui';
import { Frame } from './Frame';

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    errorElement: <Empty>Something broke on this page. Reload it; nothing that was answered is lost.</Empty>,
    children: [
      { index: true, element: <Navigate to="/today" replace /> },
      { path: 'today', element: <TodayPage /> },
      { path: 'review/together', element: <TogetherPage /> },
      { path: 'review/:number?', element: <ReviewPage /> },
      { path: 'orders', element: <OrderListPage /> },
      { path: 'orders/new', element: <OrderEntryPage /> },
      { path: 'orders/intake', element: <IntakePage /> },
      { path: 'orders/quotes', element: <OutlineListPage key="quotes" kind="QUOTE" /> },
      { path: 'orders/blanket', element: <OutlineListPage key="blanket" kind="BLANKET_ORDER" /> },
      { path: 'orders/recurring', element: <OutlineListPage key="recurring" kind="RECURRING_ORDER" /> },
      { path: 'orders/due', element: <OutlineListPage key="due" /> },
      { path: 'orders/outlines/new', element: <OutlineEntryPage /> },
      { path: 'orders/outlines/:number', element: <OutlinePage /> },
      { path: 'orders/outlines/:number/change', element: <OutlineEntryPage /> },
      { path: 'orders/:number', element: <OrderPage /> },
      { path: 'orders/:number/change', element: <OrderEntryPage /> },
      { path: 'goods/:tab?', element: <GoodsPage /> },
      { path: 'billing/invoice/:number', element: <InvoicePage /> },
      { path: 'billing/credit-note/:number', element: <CreditNotePage /> },
      { path: 'billing/correct/:number', element: <CorrectPage /> },
      { path: 'billing/payment/:number', element: <PaymentPage /> },
      { path: 'billing/deposit/:number', element: <DepositPage /> },
      { path: 'billing/:tab?', element: <BillingPage /> },
      { path: 'trail/:kind/:number', element: <TrailPage /> },
      { path: 'returns/return/:number', element: <ReturnPage /> },
      { path: 'returns/new', element: <AuthorisePage /> },
      { path: 'returns/:tab?', element: <ReturnsPage /> },
      { path: 'unwind/:number', element: <UnwindPage /> },
      { path: 'unwind/:kind/:number', element: <UnwindPage /> },
      { path: 'undone/:tab?', element: <UndonePage /> },
      { path: 'ledger/:tab?', element: <LedgerPage /> },
      { path: 'proof', element: <ProofPage /> },
      { path: 'customers', element: <CustomerListPage /> },
      { path: 'customers/:code/:tab?', element: <CustomerPage /> },
      { path: 'items', element: <ItemListPage /> },
      { path: 'items/:code', element: <ItemPage /> },
      { path: 'rules/:tab?', element: <RulesPage /> },
      { path: 'batches', element: <BatchListPage /> },
      { path: 'batches/:id', element: <BatchPage /> },
      { path: 'outbox', element: <OutboxPage /> },
      { path: '*', element: <Empty>There is nothing at this address.</Empty> },
    ],
  },
]);
