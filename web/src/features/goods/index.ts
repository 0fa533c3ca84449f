export { GoodsPage } from './GoodsPage';
