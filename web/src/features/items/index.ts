export { ItemListPage, ItemPage } from './ItemPages';
