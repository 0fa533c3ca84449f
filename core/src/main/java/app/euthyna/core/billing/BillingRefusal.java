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
            return "On line %d of order %s, %s are shipped and %s billed; %s more cannot be billed."
                    .formatted(line, order, dispatched, billed, asked);
        }

        @Override
        public String instead() {
            return "Bill the shipped quantity, or ship first.";
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
            return "Ship first, or change the rules for orders of this kind.";
        }
    }

    /** The money was refunded already, in part or whole. */
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
            return "%2$s of %1$s are already refunded, so it cannot be reversed.".formatted(document, refunded);
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
            return "%s is already reversed.".formatted(document);
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
            return "Order %s has nothing shipped and unbilled.".formatted(order);
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
            return "%s is fully billed.".formatted(subject);
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
            return "Line %d of order %s has %s to bill; %s were requested.".formatted(line, order, open, asked);
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
            return "Invoice %s has %s open; %s cannot be allocated to it.".formatted(invoice, open, asked);
        }

        @Override
        public String instead() {
            return "Allocate the open amount; the rest stays on account.";
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
            return "%s has %s to allocate; %s were requested.".formatted(source, available, asked);
        }
    }
}
