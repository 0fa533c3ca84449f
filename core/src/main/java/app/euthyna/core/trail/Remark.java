package app.euthyna.core.trail;

import java.time.LocalDate;

/** A decision on an order: held, let pass, declined. */
public record Remark(String order, LocalDate on, Stamp stamp, String sentence) {
}
