export { MailButton, PrintBar, PrintButton, usePrint, type Paper } from './Printing';
