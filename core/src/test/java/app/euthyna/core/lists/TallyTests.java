package app.euthyna.core.lists;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class TallyTests {

    private static Tally of(String... values) {
        return List.of(values).stream()
                .map(value -> Tally.same(1, Optional.of(new BigDecimal(value))))
                .reduce(Tally.NONE, Tally::plus);
    }

    @Test
    void medianIsTheMiddleOrHalfwayBetweenTheTwoInTheMiddle() {
        assertThat(of("9", "1", "3").come(Measure.MEDIAN)).contains(new BigDecimal("3"));
        assertThat(of("4", "1", "3", "8").come(Measure.MEDIAN)).contains(new BigDecimal("3.5"));
        assertThat(of("2", "2", "2", "8").come(Measure.MEDIAN)).contains(new BigDecimal("2"));
        assertThat(Tally.NONE.come(Measure.MEDIAN)).isEmpty();
    }

    @Test
    void rowsWithoutTheFigureAreCountedAndDoNotMoveTheMedian() {
        var some = of("5", "7").plus(Tally.same(3, Optional.empty()));
        assertThat(some.count()).isEqualTo(5);
        assertThat(some.come(Measure.MEDIAN)).contains(new BigDecimal("6.0"));
    }

    @Test
    void rateOfAllIsOfTheSumsAndNotTheMiddleOfTheRates() {
        var few = Tally.of(1, BigDecimal.ONE, BigDecimal.ONE);
        var many = Tally.of(9, BigDecimal.ZERO, BigDecimal.valueOf(9));
        assertThat(few.come(Measure.RATE)).contains(new BigDecimal("100.0"));
        assertThat(few.plus(many).come(Measure.RATE)).contains(new BigDecimal("10.0"));
        assertThat(Tally.NONE.come(Measure.RATE)).isEmpty();
    }

    /** Against all values in their sequence, however they were put together. */
    @Test
    void medianOfAnyValuesIsThatOfTheSortedRow() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("medians from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        var random = new Random(seed);
        for (int round = 0; round < 500; round++) {
            var values = new ArrayList<BigDecimal>();
            var tally = Tally.NONE;
            for (int at = 0; at <= random.nextInt(30); at++) {
                var value = BigDecimal.valueOf(random.nextInt(40) - 10);
                var many = 1 + random.nextInt(3);
                for (int time = 0; time < many; time++) {
                    values.add(value);
                }
                tally = random.nextBoolean()
                        ? tally.plus(Tally.same(many, Optional.of(value)))
                        : Tally.same(many, Optional.of(value)).plus(tally);
            }
            values.sort(null);
            var size = values.size();
            var middle = values.get((size - 1) / 2).add(values.get(size / 2)).divide(BigDecimal.valueOf(2));
            assertThat(tally.come(Measure.MEDIAN).orElseThrow())
                    .as("seed %d: %s", seed, values)
                    .isEqualByComparingTo(middle);
            assertThat(tally.count()).isEqualTo(size);
        }
    }
}
