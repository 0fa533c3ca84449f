package app.euthyna.core.unwind;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.List;

/** What stands in the way of unwinding something. */
public sealed interface UnwindRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.WRONG_STATE;
    }

    /** Goods of the order are gone. */
    record DepartedGoods(String order, String dispatch) implements UnwindRefusal {
        @Override
        public String code() {
            return "departed-goods";
        }

        @Override
        public String sentence() {
            return "Goods of order %s departed with dispatch %s. They can only come back through a return."
                    .formatted(order, dispatch);
        }

        @Override
        public String instead() {
            return "Cancel the rest instead; shipped goods stay as they are.";
        }
    }

    /** Work of the order is billed. */
    record Billed(String order, String invoice) implements UnwindRefusal {
        @Override
        public String code() {
            return "already-billed";
        }

        @Override
        public String sentence() {
            return "Order %s is partly billed by invoice %s.".formatted(order, invoice);
        }

        @Override
        public String instead() {
            return "Cancel the rest instead; billed goods stay as they are.";
        }
    }

    /** A deposit hangs on what would be cancelled. */
    record DepositAttached(String order, List<String> deposits, Money unapplied) implements UnwindRefusal {
        @Override
        public String code() {
            return "deposit-attached";
        }

        @Override
        public String sentence() {
            return "Order %s would be empty, but %s of deposit %s is unapplied."
                    .formatted(order, unapplied, String.join(", ", deposits));
        }

        @Override
        public String instead() {
            return "Refund the deposit first, move it to customer credit, or move it to another order.";
        }
    }

    /** Part of the invoice is credited. */
    record AlreadyCredited(String invoice, List<String> credits) implements UnwindRefusal {
        @Override
        public String code() {
            return "already-credited";
        }

        @Override
        public String sentence() {
            return "Invoice %s is credited by %s, so it cannot be taken back."
                    .formatted(invoice, String.join(", ", credits));
        }

        @Override
        public String instead() {
            return "Credit the rest of it.";
        }
    }

    /** Goods of the document came back or are allowed back. */
    record AlreadyReturned(String document, String goods, boolean received) implements UnwindRefusal {
        @Override
        public String code() {
            return "already-returned";
        }

        @Override
        public String sentence() {
            return "%s cannot be taken back: its goods %s with return %s."
                    .formatted(document, received ? "came back" : "are authorised to come back", goods);
        }

        @Override
        public String instead() {
            return received ? "Credit the returned goods." : "Withdraw return %s first.".formatted(goods);
        }
    }

    /** The dispatch is billed. */
    record DispatchBilled(String dispatch, String invoice) implements UnwindRefusal {
        @Override
        public String code() {
            return "already-billed";
        }

        @Override
        public String sentence() {
            return "Goods of dispatch %s are billed by invoice %s.".formatted(dispatch, invoice);
        }

        @Override
        public String instead() {
            return "Take back invoice %s first, or together with its dispatch.".formatted(invoice);
        }
    }

    /** All of the money settles invoices. */
    record PaymentAttached(String document, List<String> invoices) implements UnwindRefusal {
        @Override
        public String code() {
            return "payment-attached";
        }

        @Override
        public String sentence() {
            return "All money of %s settles invoice %s; nothing can be refunded."
                    .formatted(document, String.join(", ", invoices));
        }

        @Override
        public String instead() {
            return "Take back or credit the invoice first, or unallocate the payment.";
        }
    }

    /** There is no money. */
    record NothingToGiveBack(String document) implements UnwindRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "%s has no money to refund.".formatted(document);
        }
    }

    /** The money is customer credit, which is what was asked for. */
    record CreditAlready(String document, Money credit) implements UnwindRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "The %s of %s is already customer credit.".formatted(credit, document);
        }

        @Override
        public String instead() {
            return "Refund it, or allocate it to an invoice.";
        }
    }

    /** Nothing of the order is open. */
    record NothingOpen(String order) implements UnwindRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "Order %s has nothing open to cancel.".formatted(order);
        }
    }

    /** More than the line has open. */
    record MoreThanOpen(String order, int line, Quantity asked, Quantity open) implements UnwindRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public Kind kind() {
            return Kind.RULE_NOT_MET;
        }

        @Override
        public String sentence() {
            return "Line %d of order %s has %s open; %s cannot be cancelled.".formatted(line, order, open, asked);
        }
    }

    /** Part of what is named is staged. */
    record StagedGoods(String order, int line, Quantity asked, Quantity notStaged, String dispatch)
            implements UnwindRefusal {
        @Override
        public String code() {
            return "staged-goods";
        }

        @Override
        public String sentence() {
            return "Line %d of order %s has only %s unstaged; %s cannot be cancelled."
                    .formatted(line, order, notStaged, asked);
        }

        @Override
        public String instead() {
            return "Void dispatch %s first.".formatted(dispatch);
        }
    }

    /** The chain is no longer what the plan was made for. */
    record PlanChanged(String subject) implements UnwindRefusal {
        @Override
        public String code() {
            return "plan-changed";
        }

        @Override
        public String sentence() {
            return "The documents around %s changed after the plan was made, so the plan was not carried out."
                    .formatted(subject);
        }

        @Override
        public String instead() {
            return "Look at the new plan.";
        }
    }
}
