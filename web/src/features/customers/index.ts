export { CustomerListPage } from './CustomerListPage';
export { CustomerPage } from './CustomerPage';
