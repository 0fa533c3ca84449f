package app.euthyna.core.order;

/** What becomes of the quantity of a line that free stock does not cover when its order is cleared (section 7). */
public enum Shortage {
    /** It waits for stock to come in. */
    WAIT,
    /** What there is goes out, the rest is given up. */
    DROP
}
