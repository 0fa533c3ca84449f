package app.euthyna.core.billing;

import app.euthyna.core.shared.Money;

/** An invoice with what is left to settle. */
public record OpenInvoice(String number, String customer, Money gross, Money open) {

    /** What the money says about an invoice. */
    public enum State { OPEN, PART_PAID, PAID, REVERSED }

    public State state() {
        if (open.isZero()) {
            return State.PAID;
        }
        return open.equals(gross) ? State.OPEN : State.PART_PAID;
    }
}
