export { BroughtForward, Days } from './AccountSheet';
export { LedgerPage } from './LedgerPage';
