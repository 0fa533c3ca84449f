export { AuthorisePage } from './Authorise';
export { ReturnsOf } from './Lanes';
export { ReturnPage } from './ReturnSheet';
export { ReturnsPage } from './ReturnsPage';
