package app.euthyna.core.order;

import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;

/**
 * How long things have waited, as counts: since today, 1 to 2 days, 3 to 5, 6 to 10, more than 10.
 *
 * @param beyond so many have waited longer than the limit that someone set for themselves
 */
public record AgeStrip(List<Long> counts, long beyond) {

    /** The last day of each part; the last part has no end. */
    public static final List<Integer> UP_TO = List.of(0, 2, 5, 10);

    /** So many that wait since a day. */
    public record Waiting(LocalDate since, long count) {}

    public AgeStrip {
        counts = List.copyOf(counts);
    }

    public static AgeStrip of(List<Waiting> waiting, LocalDate today, int limitDays) {
        var counts = new ArrayList<>(List.of(0L, 0L, 0L, 0L, 0L));
        long beyond = 0;
        for (var some : waiting) {
            var days = Math.max(0, ChronoUnit.DAYS.between(some.since(), today));
            var part = (int) UP_TO.stream().filter(upTo -> days > upTo).count();
            counts.set(part, counts.get(part) + some.count());
            beyond += days > limitDays ? some.count() : 0;
        }
        return new AgeStrip(counts, beyond);
    }
}
