export { BatchLog } from './BatchLog';
export { BatchListPage, BatchPage } from './BatchPages';
