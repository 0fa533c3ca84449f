export { BillingPage } from './BillingPage';
export { CorrectPage } from './Correct';
export { CreditNotePage } from './CreditNote';
export { DepositPage } from './Deposits';
export { InvoicePage } from './Invoices';
export { OrderMoney } from './OrderMoney';
export { PaymentPage } from './Payments';
export { Settle } from './Settle';
export { GoodsBack, returnOf, WaysOut } from './WaysOut';
