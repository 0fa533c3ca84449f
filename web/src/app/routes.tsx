import type { ComponentType } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { Empty } from '../shared/ui';
import { Frame } from './Frame';
import { PageFailed } from './PageFailed';

/* Each capability is loaded when a page of it is opened for the first time. */
const access = () => import('../features/access');
const agreement = () => import('../features/agreement');
const batch = () => import('../features/batch');
const billing = () => import('../features/billing');
const customers = () => import('../features/customers');
const goods = () => import('../features/goods');
const imports = () => import('../features/imports');
const items = () => import('../features/items');
const ledger = () => import('../features/ledger');
const lists = () => import('../features/lists');
const order = () => import('../features/order');
const outbox = () => import('../features/outbox');
const proof = () => import('../features/proof');
const returns = () => import('../features/returns');
const review = () => import('../features/review');
const rules = () => import('../features/rules');
const today = () => import('../features/today');
const trail = () => import('../features/trail');
const unwind = () => import('../features/unwind');

/** A page with the title of its window; a parameter that is not given leaves nothing behind. */
const page = <Name extends string>(
  path: string,
  title: string,
  load: () => Promise<Record<Name, ComponentType>>,
  name: Name,
) => ({ path, handle: { title }, lazy: async () => ({ Component: (await load())[name] }) });

/** Quotes, blanket orders, recurring orders; without a kind whatever is due of them. */
const agreements = (path: string, title: string, kind?: 'QUOTE' | 'BLANKET_ORDER' | 'RECURRING_ORDER') => ({
  path,
  handle: { title },
  lazy: async () => {
    const { AgreementListPage } = await agreement();
    return { element: <AgreementListPage key={path} kind={kind} /> };
  },
});

/** Until the first page is there. */
const Nothing = () => null;

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    HydrateFallback: Nothing,
    errorElement: <Empty>The application failed. Reload it; everything that was saved is safe.</Empty>,
    children: [
      {
        errorElement: <PageFailed />,
        children: [
          { index: true, element: <Navigate to="/today" replace /> },
          page('today', 'Today', today, 'TodayPage'),
          page('review/together', 'Bulk clearing', review, 'TogetherPage'),
          page('review/:number?', 'Review :number', review, 'ReviewPage'),
          page('orders', 'Orders', order, 'OrderListPage'),
          page('orders/new', 'New order', order, 'OrderEntryPage'),
          page('orders/import', 'Import orders', imports, 'ImportPage'),
          page('orders/imports', 'Imports', imports, 'ImportListPage'),
          agreements('orders/quotes', 'Quotes', 'QUOTE'),
          agreements('orders/blanket', 'Blanket orders', 'BLANKET_ORDER'),
          agreements('orders/recurring', 'Recurring orders', 'RECURRING_ORDER'),
          agreements('orders/due', 'Orders due'),
          page('orders/agreements/new', 'New agreement', agreement, 'AgreementEntryPage'),
          page('orders/agreements/:number', 'Agreement :number', agreement, 'AgreementPage'),
          page('orders/agreements/:number/change', 'Change agreement :number', agreement, 'AgreementEntryPage'),
          page('orders/:number', 'Order :number', order, 'OrderPage'),
          page('orders/:number/change', 'Change order :number', order, 'OrderEntryPage'),
          page('goods/:tab?', 'Goods :tab', goods, 'GoodsPage'),
          page('billing/invoice/:number', 'Invoice :number', billing, 'InvoicePage'),
          page('billing/credit-note/:number', 'Credit note :number', billing, 'CreditNotePage'),
          page('billing/correct/:number', 'Credit and rebill :number', billing, 'CorrectPage'),
          page('billing/payment/:number', 'Payment :number', billing, 'PaymentPage'),
          page('billing/deposit/:number', 'Deposit :number', billing, 'DepositPage'),
          page('billing/write-off/:number', 'Write-off :number', billing, 'WriteOffPage'),
          page('billing/registers/:list?', 'Register', billing, 'RegistersPage'),
          page('billing/balances/:list?', 'As of a day', billing, 'BalancesPage'),
          page('billing/:tab?', 'Billing :tab', billing, 'BillingPage'),
          page('trail/:kind/:number', 'Trail :number', trail, 'TrailPage'),
          page('returns/return/:number', 'Return :number', returns, 'ReturnPage'),
          page('returns/new', 'Authorise a return', returns, 'AuthorisePage'),
          page('returns/:tab?', 'Returns :tab', returns, 'ReturnsPage'),
          page('unwind/:number', 'Unwind :number', unwind, 'UnwindPage'),
          page('unwind/:kind/:number', 'Unwind :number', unwind, 'UnwindPage'),
          page('undone/:tab?', 'Unwound documents :tab', unwind, 'UndonePage'),
          page('lists', 'Lists', lists, 'ListsPage'),
          page('lists/:list', 'List', lists, 'ListPage'),
          page('ledger/:tab?', 'Ledger :tab', ledger, 'LedgerPage'),
          page('proof', 'Proof', proof, 'ProofPage'),
          page('customers', 'Customers', customers, 'CustomerListPage'),
          page('customers/:code/:tab?', 'Customer :code :tab', customers, 'CustomerPage'),
          page('items', 'Items', items, 'ItemListPage'),
          page('items/:code', 'Item :code', items, 'ItemPage'),
          page('rules/:tab?', 'Rules :tab', rules, 'RulesPage'),
          page('batches', 'Bulk logs', batch, 'BatchListPage'),
          page('batches/:id', 'Bulk log :id', batch, 'BatchPage'),
          page('access/:tab?', 'Users and access :tab', access, 'AccessPage'),
          page('outbox', 'Outbox', outbox, 'OutboxPage'),
          page('outbox/:id', 'Message', outbox, 'MessagePage'),
          { path: '*', element: <Empty>This page does not exist.</Empty>, handle: { title: 'Page not found' } },
        ],
      },
    ],
  },
]);
