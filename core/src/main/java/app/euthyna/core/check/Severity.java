package app.euthyna.core.check;

/** How heavily a check weighs: a stop holds the order, a caution flags it. */
public enum Severity {
    OFF,
    CAUTION,
    STOP
}
