package app.euthyna.core.lists;

/** What rows that are put together come to. */
public enum Measure {
    /** How many there are. */
    COUNT,
    /** What a figure of theirs adds up to. */
    SUM,
    /** The middle of a figure of theirs; of an even number of them halfway between the two in the middle. */
    MEDIAN,
    /** What one figure adds up to, in per cent of what another does. */
    RATE
}
