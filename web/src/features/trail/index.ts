export { TrailPage } from './TrailPage';
