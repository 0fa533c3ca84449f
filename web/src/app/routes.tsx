import type { ReactNode } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { AccessPage } from '../features/access';
import { AgreementEntryPage, AgreementListPage, AgreementPage } from '../features/agreement';
import { BatchListPage, BatchPage } from '../features/batch';
import { BillingPage, CorrectPage, CreditNotePage, DepositPage, InvoicePage, PaymentPage } from '../features/billing';
import { CustomerListPage, CustomerPage } from '../features/customers';
import { GoodsPage } from '../features/goods';
import { ImportPage } from '../features/imports';
import { ItemListPage, ItemPage } from '../features/items';
import { LedgerPage } from '../features/ledger';
import { OrderEntryPage, OrderListPage, OrderPage } from '../features/order';
import { OutboxPage } from '../features/outbox';
import { ProofPage } from '../features/proof';
import { AuthorisePage, ReturnPage, ReturnsPage } from '../features/returns';
import { ReviewPage, TogetherPage } from '../features/review';
import { RulesPage } from '../features/rules';
import { TodayPage } from '../features/today';
import { TrailPage } from '../features/trail';
import { UndonePage, UnwindPage } from '../features/unwind';
import { Empty } from '../shared/ui';
import { Frame } from './Frame';
import { PageFailed } from './PageFailed';

/** A page with the title of its window; a parameter that is not given leaves nothing behind. */
const page = (path: string, element: ReactNode, title: string) => ({ path, element, handle: { title } });

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    errorElement: <Empty>The application failed. Reload it; everything that was saved is safe.</Empty>,
    children: [
      {
        errorElement: <PageFailed />,
        children: [
          { index: true, element: <Navigate to="/today" replace /> },
          page('today', <TodayPage />, 'Today'),
          page('review/together', <TogetherPage />, 'Bulk clearing'),
          page('review/:number?', <ReviewPage />, 'Review :number'),
          page('orders', <OrderListPage />, 'Orders'),
          page('orders/new', <OrderEntryPage />, 'New order'),
          page('orders/import', <ImportPage />, 'Import orders'),
          page('orders/quotes', <AgreementListPage key="quotes" kind="QUOTE" />, 'Quotes'),
          page('orders/blanket', <AgreementListPage key="blanket" kind="BLANKET_ORDER" />, 'Blanket orders'),
          page('orders/recurring', <AgreementListPage key="recurring" kind="RECURRING_ORDER" />, 'Recurring orders'),
          page('orders/due', <AgreementListPage key="due" />, 'Orders due'),
          page('orders/agreements/new', <AgreementEntryPage />, 'New agreement'),
          page('orders/agreements/:number', <AgreementPage />, 'Agreement :number'),
          page('orders/agreements/:number/change', <AgreementEntryPage />, 'Change agreement :number'),
          page('orders/:number', <OrderPage />, 'Order :number'),
          page('orders/:number/change', <OrderEntryPage />, 'Change order :number'),
          page('goods/:tab?', <GoodsPage />, 'Goods :tab'),
          page('billing/invoice/:number', <InvoicePage />, 'Invoice :number'),
          page('billing/credit-note/:number', <CreditNotePage />, 'Credit note :number'),
          page('billing/correct/:number', <CorrectPage />, 'Credit and rebill :number'),
          page('billing/payment/:number', <PaymentPage />, 'Payment :number'),
          page('billing/deposit/:number', <DepositPage />, 'Deposit :number'),
          page('billing/:tab?', <BillingPage />, 'Billing :tab'),
          page('trail/:kind/:number', <TrailPage />, 'Trail :number'),
          page('returns/return/:number', <ReturnPage />, 'Return :number'),
          page('returns/new', <AuthorisePage />, 'Authorise a return'),
          page('returns/:tab?', <ReturnsPage />, 'Returns :tab'),
          page('unwind/:number', <UnwindPage />, 'Unwind :number'),
          page('unwind/:kind/:number', <UnwindPage />, 'Unwind :number'),
          page('undone/:tab?', <UndonePage />, 'Unwound documents :tab'),
          page('ledger/:tab?', <LedgerPage />, 'Ledger :tab'),
          page('proof', <ProofPage />, 'Proof'),
          page('customers', <CustomerListPage />, 'Customers'),
          page('customers/:code/:tab?', <CustomerPage />, 'Customer :code :tab'),
          page('items', <ItemListPage />, 'Items'),
          page('items/:code', <ItemPage />, 'Item :code'),
          page('rules/:tab?', <RulesPage />, 'Rules :tab'),
          page('batches', <BatchListPage />, 'Bulk logs'),
          page('batches/:id', <BatchPage />, 'Bulk log :id'),
          page('access/:tab?', <AccessPage />, 'Users and access :tab'),
          page('outbox', <OutboxPage />, 'Outbox'),
          page('*', <Empty>This page does not exist.</Empty>, 'Page not found'),
        ],
      },
    ],
  },
]);
