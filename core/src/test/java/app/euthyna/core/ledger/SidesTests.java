package app.euthyna.core.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Debits and credits are kept apart: what is posted to and fro on one account in a day does not vanish. */
class SidesTests {

    private static Sides sum(String... amounts) {
        return Stream.of(amounts).map(BigDecimal::new).map(Sides::of).reduce(Sides.NONE, Sides::plus);
    }

    @Test
    void keepWhatIsDebitedApartFromWhatIsCredited() {
        var sum = sum("121.00", "-21.00", "-100.00");
        assertThat(sum.debit()).isEqualByComparingTo("121");
        assertThat(sum.credit()).isEqualByComparingTo("121");
        assertThat(sum.balance()).isEqualByComparingTo("0");
        assertThat(sum.agreesWith(Sides.NONE)).isFalse();
    }

    @Test
    void agreeHoweverManyDecimalsTheyAreKeptWith() {
        assertThat(sum("4.2", "-1").agreesWith(sum("4.2000", "-1.0000"))).isTrue();
        assertThat(sum("4.2").agreesWith(sum("4.21"))).isFalse();
    }
}
