package app.euthyna.core.shared;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;

/** How refusals come by their words. */
class WordsTests {

    @Code("late")
    record Late(DocumentRef document, LocalDate on, Money open, List<String> several, Role role, boolean isLong)
            implements Refusal.WrongState {
        int days() {
            return 3;
        }

        @Override
        public String variant() {
            return isLong ? "long" : "";
        }
    }

    @Code("silent")
    record Silent() implements Refusal {}

    private static Late late(boolean isLong) {
        return new Late(
                new DocumentRef(DocumentKind.INVOICE, "$1"), TODAY, eur("7.50"), List.of("A", "B"), Role.LEAD, isLong);
    }

    /** A number with signs that mean something in patterns stands as it is. */
    @Test
    void areFilledWithComponentsAndMethods() {
        assertThat(late(false).sentence())
                .isEqualTo("$1 was due 2 Mar 2026: " + eur("7.50") + " of A, B is open after 3 days.");
        assertThat(late(false).instead()).isEqualTo("Ring " + Role.LEAD.words() + ".");
        assertThat(late(false).code()).isEqualTo("late");
        assertThat(late(false).kind()).isEqualTo(Refusal.Kind.WRONG_STATE);
    }

    @Test
    void ofAVariantStandInForTheUsualOnesWhereThereAreSome() {
        assertThat(late(true).sentence()).isEqualTo("$1 was due long ago.");
        assertThat(late(true).instead()).isEqualTo(late(false).instead());
    }

    @Test
    void areNeverLeftOut() {
        assertThat(new Silent().kind()).isEqualTo(Refusal.Kind.RULE_NOT_MET);
        assertThat(new Silent().instead()).isEmpty();
        assertThatThrownBy(() -> new Silent().sentence()).hasMessageContaining("Silent");
    }
}
