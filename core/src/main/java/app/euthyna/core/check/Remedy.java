package app.euthyna.core.check;

import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Money;
import java.util.List;
import java.util.Optional;

/**
 * Something that would clear a finding: the smallest of its kind (section 4). Every one was tried by running all
 * checks.
 *
 * @param sentence what would have to be done: "line 2 at 40 instead of 60"
 * @param changed the order as it would be; empty where money is what it takes
 * @param rest of a split, what an order of its own would have; its lines keep their numbers
 * @param amount of a payment or deposit
 * @param leftOpen what would still be open afterwards
 */
public record Remedy(
        Check check,
        Kind kind,
        String sentence,
        Optional<Order> changed,
        Optional<Order> rest,
        Optional<Money> amount,
        List<Finding> leftOpen) {

    /** What it takes. */
    public enum Kind {
        PAYMENT,
        QUANTITY,
        LINE,
        SPLIT,
        PRICE,
        DATE
    }

    public Remedy {
        leftOpen = List.copyOf(leftOpen);
    }

    /** Its price is a floor price, or follows from the cost: it tells them to whoever reads it (section 15). */
    public boolean tellsCosts() {
        return kind == Kind.PRICE && (check == Check.PRICE_FLOOR || check == Check.MARGIN);
    }

    /** Nothing would hold the order any more. */
    public boolean clears() {
        return leftOpen.stream().noneMatch(Finding::holds);
    }
}
