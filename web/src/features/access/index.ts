export { AccessPage } from './AccessPage';
