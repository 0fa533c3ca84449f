export { AuthorisePage } from './Authorise';
export { ReturnPage } from './ReturnSheet';
export { ReturnsPage } from './ReturnsPage';
