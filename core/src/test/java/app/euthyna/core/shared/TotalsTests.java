package app.euthyna.core.shared;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.core.Rounds;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class TotalsTests {

    private static final Vat STANDARD = Vat.of(Vat.Category.S, "21");

    @Nested
    class Vats {

        /** EN 16931-1 BR-CO-17: VAT category tax amount = taxable amount × (rate ÷ 100), rounded to two decimals. */
        @Test
        void taxIsTakenOnTheSumOfNetsAndNotPerLine() {
            var part = new Totals.Part(eur("0.05"), STANDARD);
            assertThat(Totals.of(List.of(part, part, part), EUR).vat()).isEqualTo(eur("0.03"));
        }

        /** EN 16931-1 BR-CO-10, BR-CO-14, BR-CO-15: nets, taxes and their sum. */
        @Test
        void grossIsNetPlusTheTaxOfEveryBand() {
            var totals = Totals.of(
                    List.of(
                            new Totals.Part(eur("80.00"), STANDARD),
                            new Totals.Part(eur("78.75"), Vat.of(Vat.Category.S, "9"))),
                    EUR);
            assertThat(totals.net()).isEqualTo(eur("158.75"));
            assertThat(totals.vat()).isEqualTo(eur("23.89"));
            assertThat(totals.gross()).isEqualTo(eur("182.64"));
            assertThat(totals.bands()).hasSize(2);
        }

        @Test
        void onlyTheStandardCategoryHasARate() {
            assertThatThrownBy(() -> Vat.of(Vat.Category.AE, "21"))
                    .hasMessage("VAT category AE has no rate, but 21.00 was given");
        }
    }

    @Nested
    class Slices {

        /** By quantity: round(6.29 × 1 ÷ 3) = 2.10, round(6.29 × 2 ÷ 3) = 4.19, and the rest. */
        @Test
        void areTakenOfTheCumulativeQuantity() {
            var whole = eur("6.29");
            var first = whole.slice(q(1), q(3), eur("0.00"));
            var second = whole.slice(q(2), q(3), first);
            var third = whole.slice(q(3), q(3), first.plus(second));
            assertThat(List.of(first, second, third)).containsExactly(eur("2.10"), eur("2.09"), eur("2.10"));
        }

        @Test
        void addUpToTheWholeHoweverTheyAreTaken() {
            var seed = Long.getLong("seed", System.nanoTime());
            var random = new Random(seed);
            for (int round = 0; round < Rounds.of(2_000); round++) {
                var of = 1 + random.nextInt(40);
                var whole = Money.rounded(BigDecimal.valueOf(random.nextInt(1_000_000), 2), EUR);
                var taken = eur("0.00");
                var left = of;
                var pieces = new ArrayList<Integer>();
                while (left > 0) {
                    var piece = 1 + random.nextInt(left);
                    pieces.add(piece);
                    left -= piece;
                    taken = taken.plus(whole.slice(q(of - left), q(of), taken));
                }
                assertThat(taken)
                        .as("seed %d: %s of %d in %s", seed, whole, of, pieces)
                        .isEqualTo(whole);
            }
        }
    }

    @Nested
    class Figures {

        @Test
        void amountsHaveTheCurrencysDecimalsOrCannotExist() {
            assertThat(Money.of("5", "EUR")).isEqualTo(Money.of("5.00", "EUR"));
            assertThat(Money.of("500", "JPY").amount().scale()).isZero();
            assertThatThrownBy(() -> Money.of("1.005", "EUR")).isInstanceOf(ArithmeticException.class);
        }

        @Test
        void lineNetIsRoundedHalfUp() {
            assertThat(Price.of("0.0050").net(q(1), EUR)).isEqualTo(eur("0.01"));
            assertThat(new Price(new BigDecimal("14.90"), new BigDecimal("5")).net(q(60), EUR))
                    .isEqualTo(eur("849.30"));
        }

        @Test
        void sentencesWriteThousandsAndATrueMinus() {
            assertThat(eur("-1234567.80")).hasToString("EUR \u22121,234,567.80");
        }
    }
}
