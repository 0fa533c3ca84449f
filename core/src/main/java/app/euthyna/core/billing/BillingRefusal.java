package app.euthyna.core.billing;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;

/** Why something can't be billed or settled. */
public sealed interface BillingRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** More than has left and is not billed yet. */
    record MoreThanDispatched(String order, int line, Quantity asked, Quantity dispatched, Quantity billed)
            implements BillingRefusal {
        @Override
        public String code() {
            return "more-than-dispatched";
        }

        @Override
        public String sentence() {
            return "Of line %d of order %s %s have left and %s are billed; %s more can't be billed."
                    .formatted(line, order, dispatched, billed, asked);
        }

        @Override
        public String instead() {
            return "Bill what has left, or ship first.";
        }
    }

    /** Orders of this kind are billed when their goods have left, never before. */
    record NotAhead(String order, OrderKind orderKind) implements BillingRefusal {
        @Override
        public String code() {
            return "more-than-dispatched";
        }

        @Override
        public String sentence() {
            return "Order %s is of the kind %s, which is not billed ahead of dispatch."
                    .formatted(order, orderKind.words());
        }

        @Override
        public String instead() {
            return "Ship first, or have the rules changed for orders of this kind.";
        }
    }

    /** The money was given back already, in part or whole. */
    record AlreadyRefunded(String document, Money refunded) implements BillingRefusal {
        @Override
        public String code() {
            return "already-refunded";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Of %s %s were given back already, so it can't be reversed.".formatted(document, refunded);
        }
    }

    /** The document was mirrored before. */
    record AlreadyReversed(String document) implements BillingRefusal {
        @Override
        public String code() {
            return "already-reversed";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "%s was reversed already.".formatted(document);
        }
    }

    /** Nothing of the order has left that could be billed. */
    record NothingToBill(String order) implements BillingRefusal {
        @Override
        public String code() {
            return "more-than-dispatched";
        }

        @Override
        public String sentence() {
            return "Nothing of order %s has left that is not billed yet.".formatted(order);
        }

        @Override
        public String instead() {
            return "Ship first.";
        }
    }

    /** All of it stands on invoices already. */
    record AlreadyBilled(String subject) implements BillingRefusal {
        @Override
        public String code() {
            return "already-billed";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "All of %s is billed already.".formatted(subject);
        }
    }

    /** More of a service than is left. */
    record MoreThanOpen(String order, int line, Quantity asked, Quantity open) implements BillingRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "Line %d of order %s has %s left to bill; %s were asked for.".formatted(line, order, open, asked);
        }
    }

    /** More than the invoice has open. */
    record MoreThanInvoiceOpen(String invoice, Money asked, Money open) implements BillingRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "Invoice %s has %s open; %s can't be set against it.".formatted(invoice, open, asked);
        }

        @Override
        public String instead() {
            return "Allocate what is open; the rest stays on account.";
        }
    }

    /** More than came in, or than the customer has to their credit. */
    record MoreThanAvailable(String source, Money asked, Money available) implements BillingRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "%s has %s to allocate; %s were asked for.".formatted(source, available, asked);
        }
    }
}
