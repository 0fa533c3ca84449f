export { MailButton, PrintBar, PrintButton } from './Printing';
