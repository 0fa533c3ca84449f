package app.euthyna.core.flow;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;

/**
 * Money that a customer deposited for an order.
 *
 * @param amount as it came in
 * @param unapplied what is not set against invoices, refunded, moved on or turned into customer credit yet
 * @param reversed it was taken back: it stays on record and counts no more
 */
public record Deposit(String number, String order, LocalDate on, Money amount, Money unapplied, boolean reversed) {

    /** A deposit that another was moved from, and the order that it is for. */
    public record Origin(String deposit, String order) {}

    /** A deposit as it comes in. */
    public static Deposit of(String number, String order, LocalDate on, Money amount) {
        return new Deposit(number, order, on, amount, amount, false);
    }

    public Deposit {
        if (unapplied.isNegative() || unapplied.compareTo(amount) > 0) {
            throw new IllegalArgumentException(
                    "deposit %s of %s can't have %s unapplied".formatted(number, amount, unapplied));
        }
    }

    Deposit using(Money used) {
        return new Deposit(number, order, on, amount, unapplied.minus(used), reversed);
    }

    Deposit asReversed() {
        return new Deposit(number, order, on, amount, Money.zero(amount.currency()), true);
    }
}
