package app.euthyna.e2e.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class TimesTests {

    @Test
    void quantilesAreTimesThatWereMeasured() {
        var times = new Times(List.of(5.0, 1.0, 4.0, 2.0, 3.0));
        assertThat(times.median()).isEqualTo(3.0);
        assertThat(times.quantile(0.95)).isEqualTo(5.0);
    }

    /** Rounds are compared with their own: a machine that was slow for a while was so for both. */
    @Test
    void ratiosAreOfPairs() {
        var ratio = new Times(List.of(2.0, 20.0, 200.0)).to(new Times(List.of(1.0, 10.0, 100.0)));
        assertThat(ratio.median()).isEqualTo(2.0);
        assertThat(ratio.from()).isEqualTo(2.0);
        assertThat(ratio.until()).isEqualTo(2.0);
    }

    /**
     * Of 2,000 benchmarks of 200 rounds each, whose true median ratio is 1, about 95 of 100 intervals hold it (the sign
     * test's interval for a median, common practice).
     */
    @Test
    void intervalHoldsTheTrueMedianAsOftenAsItSays() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("intervals from seed " + seed + " (-Dseed=" + seed + " draws them again)");
        var random = new Random(seed);
        var held = 0;
        for (int at = 0; at < 2_000; at++) {
            var these = new ArrayList<Double>();
            var those = new ArrayList<Double>();
            for (int round = 0; round < 200; round++) {
                those.add(1.0);
                these.add(Math.exp(random.nextGaussian()));
            }
            var ratio = new Times(these).to(new Times(those));
            if (ratio.from() <= 1 && 1 <= ratio.until()) {
                held++;
            }
        }
        assertThat(held).isBetween(1_860, 1_970);
    }
}
