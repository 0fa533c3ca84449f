export { OrderEntryPage } from './OrderEntryPage';
export { OrderListPage } from './OrderListPage';
export { OrderPage } from './OrderPage';
export { findCustomers } from './api';
export { StartFrom, startable } from './StartFrom';
export { DetailsLine } from './DetailsLine';
