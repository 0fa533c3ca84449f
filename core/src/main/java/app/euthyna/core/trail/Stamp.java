package app.euthyna.core.trail;

/**
 * When and by whom something was done.
 *
 * @param moment position in the history, counted up over the whole company
 */
public record Stamp(long moment, String by) {}
