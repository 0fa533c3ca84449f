package app.euthyna.core.trail;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;

/**
 * A payment, or a deposit that became customer credit, and everything it was set against.
 *
 * @param left what stays on account
 * @param refunded what was refunded of it
 * @param reversed it bounced
 */
public record PaymentFact(
        DocumentRef document,
        String customer,
        LocalDate on,
        Money amount,
        Money left,
        Money refunded,
        boolean reversed,
        List<Allocation> allocations) {

    /**
     * An amount set against an invoice; negative where it was taken off again.
     *
     * @param stamp who did it, and when; allocations of one moment belong together
     */
    public record Allocation(String invoice, Money amount, LocalDate on, Stamp stamp) {
        public long moment() {
            return stamp.moment();
        }
    }

    /**
     * Credit of a credit note that has no line from the orders: it pays here, and its document belongs to another
     * trail.
     */
    public boolean isNeighbourOf(Collection<Chain> roots) {
        return document.kind() == DocumentKind.CREDIT_NOTE
                && Chain.allCredits(roots).stream()
                        .noneMatch(credit -> credit.number().equals(number()));
    }

    public String number() {
        return document.number();
    }

    /** What was paid, less what was refunded; nothing where it bounced. */
    public Money kept() {
        return reversed ? amount.minus(amount) : amount.minus(refunded);
    }

    public PaymentFact {
        allocations = List.copyOf(allocations);
    }
}
