package app.euthyna.core.trail;

import java.time.LocalDate;

/**
 * A decision on an order: held, waived, declined.
 *
 * @param link it ties the order to another: started from it, replaced or rebilled by it
 */
public record Remark(String order, LocalDate on, Stamp stamp, String sentence, boolean link) {}
