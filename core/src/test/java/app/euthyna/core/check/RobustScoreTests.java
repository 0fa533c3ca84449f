package app.euthyna.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * The modified z-score 0.6745 × (x − median) ÷ MAD. Source: B. Iglewicz and D. Hoaglin (1993), by way of the
 * NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.5.17; the figures are worked by hand.
 */
class RobustScoreTests {

    private static List<BigDecimal> upTo(int most) {
        return IntStream.rangeClosed(1, most).mapToObj(BigDecimal::valueOf).toList();
    }

    private static RobustScore score(String figure, List<BigDecimal> before) {
        return RobustScore.of(new BigDecimal(figure), before).orElseThrow();
    }

    /** 1 to 9: median 5, deviations 0 1 1 2 2 3 3 4 4, MAD 2; 0.6745 × 10 ÷ 2 = 3.3725. */
    @Test
    void ofAnOddNumberIsMeasuredFromTheOneInTheMiddle() {
        var fifteen = score("15", upTo(9));
        assertThat(fifteen.median()).isEqualByComparingTo("5");
        assertThat(fifteen.deviation()).isEqualByComparingTo("2");
        assertThat(fifteen.score()).isEqualByComparingTo("3.37");
    }

    /** 1 to 10: median 5.5, deviations 0.5 to 4.5 twice each, MAD 2.5; 0.6745 × 9.5 ÷ 2.5 = 2.5631. */
    @Test
    void ofAnEvenNumberFromBetweenTheTwoInTheMiddle() {
        var fifteen = score("15", upTo(10));
        assertThat(fifteen.median()).isEqualByComparingTo("5.5");
        assertThat(fifteen.deviation()).isEqualByComparingTo("2.5");
        assertThat(fifteen.score()).isEqualByComparingTo("2.56");
    }

    @Test
    void isComparedAsItIsAndOnBothSides() {
        assertThat(score("15", upTo(9)).isAbove(new BigDecimal("3.3725")))
                .as("at it")
                .isFalse();
        assertThat(score("15", upTo(9)).isAbove(new BigDecimal("3.3724"))).isTrue();
        assertThat(score("-5", upTo(9)).isAbove(new BigDecimal("3.3724")))
                .as("far below")
                .isTrue();
        assertThat(score("15", upTo(9)).isFurtherThan(score("15", upTo(10)))).isTrue();
        assertThat(score("15", upTo(10)).isFurtherThan(score("15", upTo(9)))).isFalse();
        assertThat(score("15", upTo(9)).isFurtherThan(score("-5", upTo(9))))
                .as("as far")
                .isFalse();
    }

    /** Ours: where most figures are alike, a twentieth of the median stands in for their deviation. */
    @Test
    void ofFiguresThatAreAllAlikeGoesByATwentiethOfThem() {
        var alike = Stream.generate(() -> new BigDecimal("40")).limit(8).toList();
        assertThat(score("50", alike).deviation()).isEqualByComparingTo("2");
        assertThat(RobustScore.of(
                        BigDecimal.ONE,
                        Stream.generate(() -> BigDecimal.ZERO).limit(8).toList()))
                .isEmpty();
    }

    @Test
    void ofTooFewTellsNothing() {
        assertThat(RobustScore.of(BigDecimal.TEN, upTo(RobustScore.AT_LEAST - 1)))
                .isEmpty();
        assertThat(RobustScore.of(BigDecimal.TEN, upTo(RobustScore.AT_LEAST))).isPresent();
    }
}
