export { UnwindPage } from './UnwindPage';
export { UndonePage } from './UndonePage';
export { ToDo } from './ToDo';
export { TakeBack } from './TakeBack';
