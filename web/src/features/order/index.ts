export { OrderEntryPage } from './OrderEntryPage';
export { OrderListPage } from './OrderListPage';
export { OrderPage } from './OrderPage';
