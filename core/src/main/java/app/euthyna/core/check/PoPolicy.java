package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.util.Optional;

/**
 * What a customer's repeated PO number means.
 *
 * @param near weighs numbers that differ by one character
 * @param ceiling the customer gives one PO for many orders: their value together may not pass it, and repeats are then no finding
 */
public record PoPolicy(boolean required, Severity same, Severity alike, Severity near, Optional<Money> ceiling) {

    /** How heavily a number that is met again weighs. */
    public Severity weight(PoNumber.Likeness likeness) {
        return switch (likeness) {
            case SAME -> same;
            case ALIKE -> alike;
            case NEAR -> near;
        };
    }

    public static final PoPolicy STANDARD =
            new PoPolicy(false, Severity.STOP, Severity.STOP, Severity.CAUTION, Optional.empty());
}
