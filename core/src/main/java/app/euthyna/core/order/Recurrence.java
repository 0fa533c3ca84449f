package app.euthyna.core.order;

import java.time.LocalDate;

/**
 * How often a recurring order comes due.
 *
 * @param every so many units, at least one
 */
public record Recurrence(int every, Unit unit) {

    /** What is counted. */
    public enum Unit {
        DAY,
        WEEK,
        MONTH
    }

    public Recurrence {
        if (every < 1) {
            throw new IllegalArgumentException("a recurrence of " + every);
        }
    }

    /**
     * The day on which it comes due for the nth time, counted from zero. Months are counted from the first day, so that
     * one that begins on the 31st falls on the last day of a short month and on the 31st again after it.
     */
    public LocalDate due(LocalDate first, int nth) {
        var units = (long) every * nth;
        return switch (unit) {
            case DAY -> first.plusDays(units);
            case WEEK -> first.plusWeeks(units);
            case MONTH -> first.plusMonths(units);
        };
    }

    /** As in a sentence: {@code every 2 weeks}. */
    public String words() {
        var word = unit.name().toLowerCase(java.util.Locale.ROOT);
        return every == 1 ? "every " + word : "every " + every + " " + word + "s";
    }
}
