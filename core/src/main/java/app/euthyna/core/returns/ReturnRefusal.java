package app.euthyna.core.returns;

import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;

/** Why goods can't come back, or can't be credited. */
public sealed interface ReturnRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** The document does not stand so that it could be done. */
    sealed interface WrongState extends ReturnRefusal {
        @Override
        default Kind kind() {
            return Kind.WRONG_STATE;
        }
    }

    /** More than is out and not allowed back yet. */
    record MoreThanReturnable(String subject, Quantity asked, Quantity returnable) implements ReturnRefusal {
        @Override
        public String code() {
            return "more-than-returnable";
        }

        @Override
        public String sentence() {
            return "%s has %s returnable; %s were requested.".formatted(subject, returnable, asked);
        }

        @Override
        public String instead() {
            return "Goods already returned or authorised are not counted again.";
        }
    }

    /** Nothing of it has left the building. */
    record NotDeparted(String dispatchLine) implements ReturnRefusal {
        @Override
        public String code() {
            return "more-than-returnable";
        }

        @Override
        public String sentence() {
            return "The goods of dispatch line %s have not departed, so they cannot be returned."
                    .formatted(dispatchLine);
        }

        @Override
        public String instead() {
            return "Void the dispatch if it is staged.";
        }
    }

    /** Goods may come back for so many days only. */
    record TooLate(LineRef dispatchLine, LocalDate left, LocalDate on, int days) implements ReturnRefusal {
        @Override
        public String code() {
            return "too-late";
        }

        @Override
        public String sentence() {
            return "The goods of dispatch line %s departed on %s, %d days ago; the return period is %d days."
                    .formatted(dispatchLine, Figures.day(left), ChronoUnit.DAYS.between(left, on), days);
        }

        @Override
        public String instead() {
            return "A controller or the finance lead may allow it with a reason.";
        }
    }

    /** The customer has the money for goods that have not come. */
    record CreditedAhead(String number, Quantity quantity) implements WrongState {
        @Override
        public String code() {
            return "already-credited";
        }

        @Override
        public String sentence() {
            return "%s of return %s are credited ahead; it cannot be withdrawn.".formatted(quantity, number);
        }

        @Override
        public String instead() {
            return "Remind the customer, or bill the goods again.";
        }
    }

    /** Nothing is credited for this reason before the goods are here. */
    record NotAhead(String number, String reason) implements ReturnRefusal {
        @Override
        public String code() {
            return "not-here-yet";
        }

        @Override
        public String sentence() {
            return "The goods of return %s are not received, and returns for the reason \u201c%s\u201d are not credited ahead."
                    .formatted(number, reason);
        }

        @Override
        public String instead() {
            return "Credit them on receipt. Rules say which reasons are credited ahead.";
        }
    }

    /** All that was allowed back has come, or it was withdrawn. */
    record NothingExpected(String number) implements WrongState {
        @Override
        public String code() {
            return "more-than-returnable";
        }

        @Override
        public String sentence() {
            return "Return %s expects no more goods.".formatted(number);
        }

        @Override
        public String instead() {
            return "Authorise a new return for the other goods.";
        }
    }

    /** The last reminder is too fresh. */
    record RemindedAlready(String number, LocalDate last) implements ReturnRefusal {
        @Override
        public String code() {
            return "nothing-due";
        }

        @Override
        public String sentence() {
            return "The customer was reminded of return %s on %s; the next reminder is due %d days later."
                    .formatted(number, Figures.day(last), Returning.DAYS_BETWEEN_REMINDERS);
        }
    }

    /** More than is in inspection. */
    record MoreThanInInspection(String number, int line, Quantity asked, Quantity there) implements ReturnRefusal {
        @Override
        public String code() {
            return "more-than-returnable";
        }

        @Override
        public String sentence() {
            return "Line %d of return %s has %s in inspection; %s cannot be inspected."
                    .formatted(line, number, there, asked);
        }
    }

    /** The customer has the money for it already, so they don't get the goods again. */
    record CreditedAlready(String number, int line, Quantity asked, Quantity uncredited) implements WrongState {
        @Override
        public String code() {
            return "already-credited";
        }

        @Override
        public String sentence() {
            return "Line %d of return %s has only %s uncredited; %s cannot be sent back to the customer."
                    .formatted(line, number, uncredited, asked);
        }
    }

    /** Nothing that came back was billed and is not credited. */
    record NothingToCredit(String number) implements WrongState {
        @Override
        public String code() {
            return "more-than-creditable";
        }

        @Override
        public String sentence() {
            return "Return %s has nothing received, billed and uncredited.".formatted(number);
        }

        @Override
        public String instead() {
            return "Unbilled goods need no credit; they are no longer to be billed.";
        }
    }

    /** More than is left to credit. */
    record MoreThanCreditable(String invoice, int line, String asked, String left) implements ReturnRefusal {
        @Override
        public String code() {
            return "more-than-creditable";
        }

        @Override
        public String sentence() {
            return line == 0
                    ? "Invoice %s is fully credited.".formatted(invoice)
                    : "Line %d of invoice %s has %s left to credit; %s were requested."
                            .formatted(line, invoice, left, asked);
        }
    }

    /** No invoice bills it, or all of that is credited. */
    record NothingBilled(String document) implements WrongState {
        @Override
        public String code() {
            return "more-than-creditable";
        }

        @Override
        public String sentence() {
            return "Nothing billed for %s is left to credit.".formatted(document);
        }
    }

    /** The goods have not left: nothing was delivered that could be rebilled. */
    record BilledAhead(String invoice) implements WrongState {
        @Override
        public String code() {
            return "billed-ahead";
        }

        @Override
        public String sentence() {
            return "The goods of invoice %s have not departed; it was billed ahead.".formatted(invoice);
        }

        @Override
        public String instead() {
            return "Take back the invoice in Unwind, then bill the order again.";
        }
    }

    /** The invoice was taken back. */
    record InvoiceReversed(String invoice) implements WrongState {
        @Override
        public String code() {
            return "already-reversed";
        }

        @Override
        public String sentence() {
            return "Invoice %s is already reversed; there is nothing to credit.".formatted(invoice);
        }
    }

    /** What came is another item than what left. */
    record WrongItem(String number, String item, LineRef dispatchLine, String left) implements ReturnRefusal {
        @Override
        public String code() {
            return "wrong-item";
        }

        @Override
        public String sentence() {
            return "%s is item %s; dispatch line %s shipped item %s.".formatted(number, item, dispatchLine, left);
        }

        @Override
        public String instead() {
            return "Choose a line that shipped item %s, or send the goods back.".formatted(item);
        }
    }

    /** So much did not come, or was decided on already. */
    record MoreThanCame(String number, Quantity asked, Quantity left) implements ReturnRefusal {
        @Override
        public String code() {
            return "more-than-returnable";
        }

        @Override
        public String sentence() {
            return "%s has %s waiting for a decision; %s were requested.".formatted(number, left, asked);
        }
    }
}
