export { BatchLog } from './BatchLog';
export { BatchListPage, LogsLink, BatchPage } from './BatchPages';
