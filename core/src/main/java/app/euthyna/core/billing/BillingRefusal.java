package app.euthyna.core.billing;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;

/** Why something can't be billed or settled. */
public sealed interface BillingRefusal extends Refusal {

    /** More than has left and is not billed yet. */
    @Code("more-than-dispatched")
    record MoreThanDispatched(String order, int line, Quantity asked, Quantity dispatched, Quantity billed)
            implements BillingRefusal {}

    /** Orders of this kind are billed when their goods have left, never before. */
    @Code("more-than-dispatched")
    record NotAhead(String order, OrderKind orderKind) implements BillingRefusal {}

    /** The money was refunded already, in part or whole. */
    @Code("already-refunded")
    record AlreadyRefunded(String document, Money refunded) implements BillingRefusal, Refusal.WrongState {}

    /** The document was mirrored before. */
    @Code("already-reversed")
    record AlreadyReversed(String document) implements BillingRefusal, Refusal.WrongState {}

    /** Nothing of the order has left that could be billed. */
    @Code("more-than-dispatched")
    record NothingToBill(String order) implements BillingRefusal {}

    /** All of it stands on invoices already. */
    @Code("already-billed")
    record AlreadyBilled(String subject) implements BillingRefusal, Refusal.WrongState {}

    /** More of a service than is left. */
    @Code("more-than-open")
    record MoreThanOpen(String order, int line, Quantity asked, Quantity open) implements BillingRefusal {}

    /** More than the invoice has open. */
    @Code("more-than-open")
    record MoreThanInvoiceOpen(String invoice, Money asked, Money open) implements BillingRefusal {}

    /** More than came in, or than the customer has to their credit. */
    @Code("more-than-open")
    record MoreThanAvailable(String source, Money asked, Money available) implements BillingRefusal {}

    /** More than counts as a small difference on one invoice. */
    @Code("limit-of-person")
    record NoSmallDifference(String invoice, Money together, Money limit)
            implements BillingRefusal, Refusal.NotAuthorised {}

    /** More than the person may write off. */
    @Code("limit-of-person")
    record WriteOffLimit(Money amount, Money before, Money limit) implements BillingRefusal, Refusal.NotAuthorised {
        @Override
        public String variant() {
            return before.isPositive() ? "together" : "";
        }

        int daysTogether() {
            return RefundRules.DAYS_TOGETHER;
        }
    }

    /** No discount for paying early is agreed for the invoice, or it was taken. */
    @Code("discount-lapsed")
    record NoDiscount(String invoice) implements BillingRefusal {}

    /** The days in which it could be taken are over. */
    @Code("discount-lapsed")
    record DiscountLapsed(String invoice, LocalDate until, LocalDate paidOn) implements BillingRefusal {}

    /** The amount and the discount are not just what is open. */
    @Code("more-than-open")
    record NotWithDiscount(String invoice, Money paid, Money discount, Money due) implements BillingRefusal {}
}
