package app.euthyna.e2e.bench;

import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/** What was measured of one question: milliseconds, round by round. */
final class Times {

    /** Half of the rounds are beyond this quantile of the standard normal distribution: 95 of 100 lie within. */
    private static final double WITHIN_95 = 1.96;

    private final double[] millis;

    Times(List<Double> millis) {
        this.millis = millis.stream().mapToDouble(Double::doubleValue).toArray();
    }

    /** The time that so large a share of the rounds did not exceed. */
    double quantile(double share) {
        var sorted = millis.clone();
        Arrays.sort(sorted);
        return sorted[Math.min(sorted.length - 1, (int) (share * sorted.length))];
    }

    double median() {
        return quantile(0.5);
    }

    /**
     * How this stands to another, round by round: the median of the ratios, and the interval that holds the true median
     * in 95 of 100 cases by order statistics (distribution-free; W. J. Conover, Practical Nonparametric Statistics,
     * section 3.2, from memory).
     */
    Ratio to(Times other) {
        var ratios = IntStream.range(0, Math.min(millis.length, other.millis.length))
                .mapToDouble(at -> millis[at] / other.millis[at])
                .sorted()
                .toArray();
        var half = WITHIN_95 * Math.sqrt(ratios.length) / 2;
        var low = Math.max(0, (int) Math.floor(ratios.length / 2.0 - half));
        var high = Math.min(ratios.length - 1, (int) Math.ceil(ratios.length / 2.0 + half));
        return new Ratio(ratios[ratios.length / 2], ratios[low], ratios[high]);
    }

    record Ratio(double median, double from, double until) {}
}
