package app.euthyna.core.shared;

import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;
import static org.assertj.core.api.Assertions.assertThatIllegalStateException;

import java.math.BigDecimal;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FiguresTests {

    @ParameterizedTest
    @CsvSource({"9.9900,9.99", "9.5000,9.50", "10.0000,10.00", "0.0050,0.005", "1200,1200.00", "0,0.00"})
    void pricesHaveTwoDecimalsAtLeast(String given, String shown) {
        assertThat(Figures.price(new BigDecimal(given))).isEqualTo(shown);
    }

    @ParameterizedTest
    @CsvSource({
        "0,0",
        "999,999",
        "1000,'1,000'",
        "999999.99,'999,999.99'",
        "1000000,'1,000,000'",
        "0.50,0.50",
        "-1234.50,'\u22121,234.50'",
        "100.00,100.00"
    })
    void thousandsAreGrouped(String given, String shown) {
        assertThat(Figures.grouped(new BigDecimal(given))).isEqualTo(shown);
    }

    @ParameterizedTest
    @CsvSource({"10.00,10", "6.50,6.5", "0.00,0", "100,100"})
    void perCentHasNoZerosAtItsEnd(String given, String shown) {
        assertThat(Figures.plain(new BigDecimal(given))).isEqualTo(shown);
    }

    @Test
    void theLessAndTheMoreOfTwo() {
        assertThat(eur("1.00").min(eur("2.00"))).isEqualTo(eur("1.00"));
        assertThat(eur("2.00").min(eur("1.00"))).isEqualTo(eur("1.00"));
        assertThat(eur("1.00").max(eur("2.00"))).isEqualTo(eur("2.00"));
        assertThat(q(3).min(q(2))).isEqualTo(q(2));
        assertThat(q(2).max(q(3))).isEqualTo(q(3));
    }

    @Test
    void linesOfDocumentsStandByNumberThenByLine() {
        assertThat(Stream.of(new LineRef("D-2", 1), new LineRef("D-1", 10), new LineRef("D-1", 2))
                        .sorted())
                .extracting(LineRef::toString)
                .containsExactly("D-1/2", "D-1/10", "D-2/1");
    }

    /** EN 16931-1 BR-S-05 and BR-Z-05 (VATEX of the other categories alike): only the standard category has a rate. */
    @Test
    void onlyTheStandardCategoryHasARate() {
        assertThat(Vat.of(Vat.Category.S, "100").ratePercent()).isEqualByComparingTo("100");
        assertThatIllegalArgumentException().isThrownBy(() -> Vat.of(Vat.Category.S, "100.01"));
        assertThatIllegalArgumentException().isThrownBy(() -> Vat.of(Vat.Category.S, "-1"));
        for (var category : Vat.Category.values()) {
            if (category != Vat.Category.S) {
                assertThatIllegalArgumentException().isThrownBy(() -> Vat.of(category, "21"));
                assertThat(Vat.of(category, "0").ratePercent()).isEqualByComparingTo("0");
            }
        }
    }

    @Test
    void aDecisionIsTakenFurtherOnlyWhereNothingSpeaksAgainstIt() {
        assertThat(Decision.of(2).map(two -> two + 1).get()).isEqualTo(3);
        var refused = Decision.<Integer>refused(new CommonRefusal.NotFound("order", "SO-1"));
        assertThat(refused.map(two -> two + 1).refusals()).isEqualTo(refused.refusals());
        assertThatIllegalStateException().isThrownBy(refused::get).withMessageContaining("NotFound");
    }

    /** What was sealed in the hash chain under its old name stays what was posted. */
    @Test
    void sealedNamesNeverChange() {
        assertThat(DocumentKind.STOCK_COUNT.sealedName()).isEqualTo("STOCK_CORRECTION");
        assertThat(Stream.of(DocumentKind.values())
                        .filter(kind -> kind != DocumentKind.STOCK_COUNT)
                        .filter(kind -> !kind.sealedName().equals(kind.name())))
                .isEmpty();
    }

    @Test
    void refusalsKnowWhatKindOfNoTheyAre() {
        assertThat(new CommonRefusal.NotFound("order", "SO-1").kind()).isEqualTo(Refusal.Kind.NOT_FOUND);
        assertThat(CommonRefusal.Incomplete.of("reason", "a reason").kind()).isEqualTo(Refusal.Kind.INCOMPLETE);
        var notFor = new CommonRefusal.NotAuthorised("close a period", Role.CLERK, List.of(Role.LEAD));
        assertThat(notFor.kind()).isEqualTo(Refusal.Kind.NOT_AUTHORISED);
        assertThat(notFor.sentence())
                .isEqualTo("To close a period is for the finance lead; you are signed in as a sales clerk.");
    }
}
