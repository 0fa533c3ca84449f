export { sheetQuery, type Finding, type Sheet } from './api';
export { ApprovalRow, FindingRow, Position } from './Findings';
export { DecisionBar } from './DecisionBar';
export { SheetLines } from './SheetLines';
export { ReviewPage } from './ReviewPage';
export { HistoryList } from './Notes';
export { Remedies } from './Remedies';
export { TogetherPage } from './Together';
