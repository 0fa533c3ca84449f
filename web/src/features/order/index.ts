export { OrderEntryPage } from './OrderEntryPage';
export { OrderListPage } from './OrderListPage';
export { OrderPage } from './OrderPage';
export { findCustomers, sitesQuery } from './api';
export { Attachments } from './Attachments';
export { CustomerLook } from './CustomerLook';
export { ItemLook } from './ItemLook';
export { StartFrom, startable } from './StartFrom';
export { DetailsLine } from './DetailsLine';
