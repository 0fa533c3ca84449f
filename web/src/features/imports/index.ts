export { ImportListPage, ImportPage } from './ImportPage';
