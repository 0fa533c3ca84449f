export { CustomerLook } from './CustomerLook';
export { ItemLook } from './ItemLook';
export { findCustomers, findItems, sitesQuery } from './api';
