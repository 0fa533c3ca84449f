package app.euthyna.core.billing;

import app.euthyna.core.shared.Money;

/** An invoice with what is left to settle. */
public record OpenInvoice(String number, String customer, Money gross, Money open) {

    /** What the money says about an invoice. */
    public enum State {
        OPEN,
        PART_PAID,
        PAID,
        REVERSED
    }

    /** What an amount left open says; an invoice that was taken back has none. */
    public static State state(Money gross, Money open, boolean reversed) {
        if (reversed) {
            return State.REVERSED;
        }
        if (open.isZero()) {
            return State.PAID;
        }
        return open.equals(gross) ? State.OPEN : State.PART_PAID;
    }
}
