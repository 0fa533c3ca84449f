package app.euthyna.core.lists;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Collections;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;

/**
 * Rows put together: enough of them to tell each {@link Measure}, also when some are put together with others.
 *
 * @param count of rows
 * @param sum of the figure; of a rate of the first one
 * @param per what the second figure of a rate adds up to
 * @param spread how many rows have each value of the figure, by which a median is found; rows without one are not there
 */
public record Tally(long count, BigDecimal sum, BigDecimal per, NavigableMap<BigDecimal, Long> spread) {

    /** Of no rows. */
    public static final Tally NONE = new Tally(0, BigDecimal.ZERO, BigDecimal.ZERO, new TreeMap<>());

    private static final BigDecimal HUNDRED = BigDecimal.valueOf(100);

    public Tally {
        spread = Collections.unmodifiableNavigableMap(new TreeMap<>(spread));
    }

    /** Rows of which a figure adds up to a sum. */
    public static Tally of(long count, BigDecimal sum) {
        return new Tally(count, sum, BigDecimal.ZERO, NONE.spread());
    }

    /** Rows with two figures, one of which is told in per cent of the other. */
    public static Tally of(long count, BigDecimal sum, BigDecimal per) {
        return new Tally(count, sum, per, NONE.spread());
    }

    /** Rows that all have the same value of a figure. */
    public static Tally same(long count, Optional<BigDecimal> value) {
        var spread = new TreeMap<BigDecimal, Long>();
        value.ifPresent(one -> spread.put(one, count));
        return new Tally(count, BigDecimal.ZERO, BigDecimal.ZERO, spread);
    }

    /** These rows and others. */
    public Tally plus(Tally other) {
        var all = new TreeMap<>(spread);
        other.spread.forEach((value, many) -> all.merge(value, many, Long::sum));
        return new Tally(count + other.count, sum.add(other.sum), per.add(other.per), all);
    }

    /** What they come to; empty where that can't be told: the median of nothing, a share of nothing. */
    public Optional<BigDecimal> come(Measure measure) {
        return switch (measure) {
            case COUNT -> Optional.of(BigDecimal.valueOf(count));
            case SUM -> Optional.of(sum);
            case MEDIAN -> median();
            case RATE ->
                per.signum() == 0
                        ? Optional.empty()
                        : Optional.of(sum.multiply(HUNDRED).divide(per, 1, RoundingMode.HALF_UP));
        };
    }

    private Optional<BigDecimal> median() {
        var many = spread.values().stream().mapToLong(Long::longValue).sum();
        if (many == 0) {
            return Optional.empty();
        }
        var lower = at((many + 1) / 2);
        var upper = at(many / 2 + 1);
        return Optional.of(
                lower.compareTo(upper) == 0
                        ? lower
                        : lower.add(upper).divide(BigDecimal.valueOf(2), lower.scale() + 1, RoundingMode.HALF_UP));
    }

    /** The value of the row at a place, counted from one, when they stand by it. */
    private BigDecimal at(long place) {
        var before = 0L;
        for (var one : spread.entrySet()) {
            before += one.getValue();
            if (before >= place) {
                return one.getKey();
            }
        }
        throw new IllegalArgumentException("no row at place " + place);
    }
}
