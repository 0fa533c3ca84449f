export { ListPage, ListsPage } from './ListsPage';
