import { createBrowserRouter, Navigate } from 'react-router';
import { BillingPage } from '../features/billing';
import { GoodsPage } from '../features/goods';
import { IntakePage } from '../features/intake';
import { LedgerPage } from '../features/ledger';
import { OrderEntryPage, OrderListPage, OrderPage } from '../features/order';
import { ProofPage } from '../features/proof';
import { ReviewPage } from '../features/review';
import { TodayPage } from '../features/today';
import { TrailPage } from '../features/trail';
import { UnwindPage } from '../features/unwind';
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
      { path: 'review/:number?', element: <ReviewPage /> },
      { path: 'orders', element: <OrderListPage /> },
      { path: 'orders/new', element: <OrderEntryPage /> },
      { path: 'orders/intake', element: <IntakePage /> },
      { path: 'orders/:number', element: <OrderPage /> },
      { path: 'orders/:number/change', element: <OrderEntryPage /> },
      { path: 'goods/:tab?', element: <GoodsPage /> },
      { path: 'billing/:tab?', element: <BillingPage /> },
      { path: 'trail/:kind/:number', element: <TrailPage /> },
      { path: 'unwind/:number', element: <UnwindPage /> },
      { path: 'ledger/:tab?', element: <LedgerPage /> },
      { path: 'proof', element: <ProofPage /> },
      { path: '*', element: <Empty>There is nothing at this address.</Empty> },
    ],
  },
]);
