package app.euthyna.core.check;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * How far a figure stands from those before it: score = 0.6745 × (figure − median) ÷ MAD, where MAD is the median of
 * the absolute deviations from the median. Source: B. Iglewicz and D. Hoaglin (1993), by way of the NIST/SEMATECH
 * e-Handbook of Statistical Methods, 1.3.5.17. Where more than half of the figures are the same the MAD is zero; a
 * twentieth of the median then stands in for it (ours), and nothing is told where that is zero too.
 *
 * @param score as it is shown: two decimals, half-up; comparisons are of the exact figures
 */
public record RobustScore(BigDecimal figure, BigDecimal median, BigDecimal deviation, BigDecimal score) {

    /** Fewer figures than these tell nothing. */
    public static final int AT_LEAST = 8;

    private static final BigDecimal NORMAL_QUARTILE = new BigDecimal("0.6745");
    private static final BigDecimal TWO = BigDecimal.valueOf(2);
    private static final BigDecimal TWENTY = BigDecimal.valueOf(20);

    public static Optional<RobustScore> of(BigDecimal figure, Collection<BigDecimal> before) {
        if (before.size() < AT_LEAST) {
            return Optional.empty();
        }
        var median = median(before.stream().sorted().toList());
        var mad = median(before.stream()
                .map(value -> value.subtract(median).abs())
                .sorted()
                .toList());
        var spread = mad.signum() == 0 ? median.divide(TWENTY) : mad;
        return spread.signum() == 0
                ? Optional.empty()
                : Optional.of(new RobustScore(
                        figure,
                        median,
                        spread,
                        NORMAL_QUARTILE.multiply(figure.subtract(median)).divide(spread, 2, RoundingMode.HALF_UP)));
    }

    private static BigDecimal median(List<BigDecimal> sorted) {
        var middle = sorted.size() / 2;
        return sorted.size() % 2 == 1
                ? sorted.get(middle)
                : sorted.get(middle - 1).add(sorted.get(middle)).divide(TWO);
    }

    /** It stands further off than a score, on either side. */
    public boolean isAbove(BigDecimal limit) {
        return distance().compareTo(limit.multiply(deviation)) > 0;
    }

    /** It stands further off than another. */
    public boolean isFurtherThan(RobustScore other) {
        return distance().multiply(other.deviation).compareTo(other.distance().multiply(deviation)) > 0;
    }

    private BigDecimal distance() {
        return NORMAL_QUARTILE.multiply(figure.subtract(median)).abs();
    }
}
