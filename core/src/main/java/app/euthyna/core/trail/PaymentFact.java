package app.euthyna.core.trail;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.List;

/**
 * A payment and everything it was set against.
 *
 * @param left what stays on account
 */
public record PaymentFact(String number, String customer, LocalDate on, Money amount, Money left, List<Allocation> allocations) {

    /**
     * An amount set against an invoice.
     *
     * @param moment when, as a position in the history; allocations of one moment belong together
     */
    public record Allocation(String invoice, Money amount, LocalDate on, long moment) {
    }

    public PaymentFact {
        allocations = List.copyOf(allocations);
    }
}
