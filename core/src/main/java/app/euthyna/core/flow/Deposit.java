package app.euthyna.core.flow;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;

/**
 * Money that a customer deposited for an order.
 *
 * @param amount as it came in
 * @param unapplied what is not set against invoices, refunded, moved on or turned into customer credit yet
 */
public record Deposit(String number, String order, LocalDate on, Money amount, Money unapplied) {

    public Deposit {
        if (unapplied.isNegative() || unapplied.compareTo(amount) > 0) {
            throw new IllegalArgumentException(
                    "deposit %s of %s can't have %s unapplied".formatted(number, amount, unapplied));
        }
    }

    Deposit using(Money used) {
        return new Deposit(number, order, on, amount, unapplied.minus(used));
    }
}
