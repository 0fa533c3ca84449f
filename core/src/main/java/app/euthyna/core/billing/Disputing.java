package app.euthyna.core.billing;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Optional;

/**
 * Invoices that a customer does not agree with, whole or in part: while one is looked into, what is disputed is not
 * dunned, and does not count as overdue where the company says so (section 16).
 */
public final class Disputing {

    private Disputing() {}

    /** How a dispute stands, or ended. */
    public enum State {
        OPEN,
        CREDITED,
        WRITTEN_OFF,
        PAID,
        /** The invoice was taken back. */
        TAKEN_BACK,
        /** There is nothing in it, or it was settled otherwise. */
        WITHDRAWN
    }

    /**
     * A dispute.
     *
     * @param amount of the invoice; empty for all that is open of it
     * @param owner who looks into it
     * @param lookOn when it is looked at again
     */
    public record Dispute(String invoice, Optional<Money> amount, String reason, String owner, LocalDate lookOn) {

        /** What of an open amount is disputed. */
        public Money of(Money open) {
            return amount.map(open::min).orElse(open);
        }
    }

    /**
     * Marks an invoice as disputed.
     *
     * @param disputed it is already
     */
    public static Decision<Dispute> open(Dispute asked, Money open, boolean disputed, LocalDate today) {
        var refusals = new ArrayList<Refusal>();
        if (asked.reason().isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "what the customer does not agree with"));
        }
        if (disputed) {
            refusals.add(new DisputedAlready(asked.invoice()));
        } else if (!open.isPositive()) {
            refusals.add(new BillingRefusal.MoreThanInvoiceOpen(
                    asked.invoice(), asked.amount().orElse(open), open));
        } else {
            asked.amount().ifPresent(amount -> {
                if (!amount.isPositive()) {
                    refusals.add(CommonRefusal.Incomplete.of("amount", "an amount above zero"));
                } else if (amount.compareTo(open) > 0) {
                    refusals.add(new BillingRefusal.MoreThanInvoiceOpen(asked.invoice(), amount, open));
                }
            });
        }
        notBefore(asked.lookOn(), today).ifPresent(refusals::add);
        return refusals.isEmpty() ? Decision.of(asked) : Decision.refused(refusals);
    }

    /** Whoever looks into it, and when it is looked at again, may change as long as it is open. */
    public static Optional<Refusal> change(String invoice, State state, LocalDate lookOn, LocalDate today) {
        return state == State.OPEN ? notBefore(lookOn, today) : Optional.of(new DisputeEnded(invoice));
    }

    /** Ends it by hand. */
    public static Optional<Refusal> end(String invoice, State state, String reason) {
        if (state != State.OPEN) {
            return Optional.of(new DisputeEnded(invoice));
        }
        return reason.isBlank()
                ? Optional.of(CommonRefusal.Incomplete.of("reason", "how it was settled"))
                : Optional.empty();
    }

    private static Optional<Refusal> notBefore(LocalDate lookOn, LocalDate today) {
        return lookOn.isBefore(today)
                ? Optional.of(CommonRefusal.Incomplete.of("lookOn", "a day that is not over"))
                : Optional.empty();
    }

    /** A dispute is open on it. */
    @Code("already-disputed")
    public record DisputedAlready(String invoice) implements Refusal.WrongState {}

    /** The dispute is over. */
    @Code("already-settled")
    record DisputeEnded(String invoice) implements Refusal.WrongState {}
}
