export { OwnApprovalRules } from './ApprovalRules';
export { ReasonChoice } from './ReasonChoice';
export { RulesPage } from './RulesPage';
export { rulesQuery } from './api';
