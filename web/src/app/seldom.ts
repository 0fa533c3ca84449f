export { AbsenceDialog } from './Absence';
export { KeysDialog } from './Keys';
export { LeaveDialog } from './Leave';
export { OwnPasswordDialog } from './OwnPassword';
export { SignInAgain } from './SignInAgain';
export { UserMenu } from './UserMenu';
