package app.euthyna.core.check;

import java.util.List;

/**
 * The priority of an order under review: its open value, weighed by how soon it is wanted. Held orders come before
 * flagged ones, since nothing of them moves. Common practice; the weights are ours.
 */
public final class ReviewPriority {

    /** Orders wanted within so many days, or late, weigh so much; the first that fits counts. */
    public record Weight(int withinDays, int factor) {}

    public static final List<Weight> WEIGHTS =
            List.of(new Weight(0, 30), new Weight(3, 10), new Weight(7, 4), new Weight(14, 2));

    /** The weight of orders wanted later than all of these. */
    public static final int LATER = 1;

    private ReviewPriority() {}
}
