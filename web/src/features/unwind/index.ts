export { UnwindPage } from './UnwindPage';
export { UndonePage } from './UndonePage';
export { ToDo } from './ToDo';
export { Outcomes } from './Outcomes';
export { TakeBack, TakeBackBar } from './TakeBack';
