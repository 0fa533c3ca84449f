export { AgreementEntryPage } from './AgreementEntryPage';
export { AgreementListPage } from './AgreementListPage';
export { AgreementPage } from './AgreementPage';
export { OrderTabs } from './OrderTabs';
