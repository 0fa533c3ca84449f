package app.euthyna.core.trail;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.List;

/**
 * A deposit and all that became of it.
 *
 * @param left what is unapplied
 * @param movedFrom the deposit that it was moved from; empty where the money came in with it
 */
public record DepositFact(
        String number, String order, LocalDate on, Money amount, Money left, String movedFrom, List<Use> uses) {

    /** What a deposit, or a part of it, was put to. */
    public enum Kind {
        /** Set against an invoice; negative where it was taken off again. */
        APPLIED,
        /** Paid back; negative where that did not reach the customer. */
        GIVEN_BACK,
        /** Gone on as a deposit for another order. */
        MOVED,
        /** Turned into customer credit. */
        CREDITED,
        /** Taken back: the money did not come, or belongs to the deposit that it was moved from. */
        REVERSED
    }

    /**
     * One use of it.
     *
     * @param document the invoice, the refund or the deposit it went on as; its own where it became credit
     * @param stamp who did it, and when
     */
    public record Use(Kind kind, DocumentRef document, Money amount, LocalDate on, Stamp stamp) {}

    /** Whether it was taken back. */
    public boolean reversed() {
        return uses.stream().anyMatch(use -> use.kind() == Kind.REVERSED);
    }

    public DepositFact {
        uses = List.copyOf(uses);
    }
}
