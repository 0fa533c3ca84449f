package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.util.Optional;

/**
 * What a customer's repeated PO number means: the company's rule, or the customer's own in its place.
 *
 * @param near weighs numbers that differ by one character; never a stop
 * @param ceiling the customer gives one PO for many orders: their value together may not pass it, and repeats are then
 *     no finding
 * @param barred what becomes of an order whose number is stopped, when whoever writes it may not waive it
 */
public record PoPolicy(
        boolean required, Severity same, Severity alike, Severity near, Optional<Money> ceiling, Barred barred) {

    /** For whoever may not let a repeated number pass. */
    public enum Barred {
        /** The order is saved and held. */
        HOLD,
        /** The number can't be saved. */
        REFUSE
    }

    public PoPolicy {
        if (near == Severity.STOP) {
            throw new IllegalArgumentException("a near PO number is caution or off");
        }
        barred = barred == null ? Barred.HOLD : barred;
    }

    /** How heavily a number that is met again weighs. */
    public Severity weight(PoNumber.Likeness likeness) {
        return switch (likeness) {
            case SAME -> same;
            case ALIKE -> alike;
            case NEAR -> near;
        };
    }

    public static final PoPolicy STANDARD =
            new PoPolicy(false, Severity.STOP, Severity.STOP, Severity.CAUTION, Optional.empty(), Barred.HOLD);
}
