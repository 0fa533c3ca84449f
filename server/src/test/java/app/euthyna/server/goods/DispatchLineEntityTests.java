package app.euthyna.server.goods;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.server.platform.Unended;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;

/**
 * On which days something of a line was unbilled: found by one index, so each of these days must lie before the end.
 */
class DispatchLineEntityTests {

    private static final LocalDate MONDAY = LocalDate.of(2026, 10, 5);
    private static final BigDecimal NONE = new BigDecimal("0.000");
    private static final BigDecimal TWO = new BigDecimal("2.000");

    private final DispatchLineEntity line = new DispatchLineEntity();

    @Test
    void isUnbilledUntilTheDayOnWhichTheLastOfItIsBilled() {
        line.departedOn = MONDAY;
        assertThat(line.keep(TWO, TWO, null, MONDAY)).isTrue();
        assertThat(line.unbilledUntil).isEqualTo(Unended.DAY);
        assertThat(line.keep(new BigDecimal("2"), new BigDecimal("2"), null, MONDAY.plusDays(1)))
                .as("the same figures, written otherwise")
                .isFalse();
        assertThat(line.keep(NONE, NONE, MONDAY.plusDays(1), MONDAY.plusDays(2)))
                .isTrue();
        assertThat(line.unbilledUntil)
                .as("dated back or not, by today all has happened")
                .isEqualTo(MONDAY.plusDays(2));
        assertThat(line.takenOn).isEqualTo(MONDAY.plusDays(1));
        assertThat(line.keep(NONE, NONE, MONDAY.plusDays(1), MONDAY.plusDays(9)))
                .as("nothing has changed since")
                .isFalse();
    }

    @Test
    void isUnbilledFromTheDayOnWhichItLeaves() {
        line.quantity = TWO;
        line.cost = new BigDecimal("9.5000");
        line.left();
        assertThat(line.unbilledUntil).as("it has not left yet").isNull();
        line.departedOn = MONDAY;
        line.left();
        assertThat(line.keep(TWO, new BigDecimal("9.5"), null, MONDAY))
                .as("known already")
                .isFalse();
    }

    @Test
    void isUnbilledAnewOnceItsInvoiceIsTakenBack() {
        line.departedOn = MONDAY;
        line.keep(TWO, TWO, null, MONDAY);
        line.keep(NONE, NONE, MONDAY, MONDAY);
        line.keep(TWO, TWO, MONDAY, MONDAY.plusDays(3));
        assertThat(line.unbilledUntil).isEqualTo(Unended.DAY);
        line.keep(NONE, NONE, MONDAY, MONDAY.plusDays(4));
        assertThat(line.unbilledUntil).isEqualTo(MONDAY.plusDays(4));
    }

    @Test
    void neverIsWhereItWasBilledAheadOrGivenAway() {
        line.departedOn = MONDAY;
        line.keep(NONE, NONE, MONDAY.minusDays(2), MONDAY);
        assertThat(line.unbilledUntil).isNull();
        line.keep(NONE, NONE, null, MONDAY);
        assertThat(line.unbilledUntil).isNull();
    }

    @Test
    void wasBetweenADepartureDatedBackAndTheInvoiceWrittenWithIt() {
        line.departedOn = MONDAY;
        line.keep(NONE, NONE, MONDAY.plusDays(2), MONDAY.plusDays(2));
        assertThat(line.unbilledUntil).isEqualTo(MONDAY.plusDays(2));
    }
}
