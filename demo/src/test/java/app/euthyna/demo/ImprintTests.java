package app.euthyna.demo;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.DocumentKind;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class ImprintTests {

    private final Imprint imprint = new Imprint(
            Map.of("C101", "Petrel Cove Boatyard", "C102", "Gannet Sound"), Map.of("2026", 40L, "C2026", 3L));

    @BeforeEach
    void learn() {
        imprint.learn("SO-1001 to SO-1007, D-1002 and the entries J-1 to J-12; SK-1020");
    }

    private String inCopy(int copy, String text) {
        return imprint.of(text) instanceof Imprint.Text read ? read.in(copy) : text;
    }

    @Test
    void numbersMoveOnByAsManyDocumentsAsThereAreOfTheKind() {
        assertThat(imprint.span(DocumentKind.ORDER)).isEqualTo(7);
        assertThat(inCopy(2, "Order SO-1003 left with D-1001; SK-1004"))
                .isEqualTo("Order SO-1017 left with D-1005; SK-1044");
        assertThat(inCopy(3, "mirrors J-5")).isEqualTo("mirrors J-41");
    }

    @Test
    void seriesOfAYearKeepTheirForm() {
        assertThat(inCopy(1, "invoice 2026-00040, credited with C2026-00001"))
                .isEqualTo("invoice 2026-00080, credited with C2026-00004");
        assertThat(inCopy(2_500, "2026-00001")).isEqualTo("2026-100001");
    }

    @Test
    void customersAreOthersOfTheSameName() {
        assertThat(inCopy(4, "Petrel Cove Boatyard (C101) and C102, Gannet Sound"))
                .isEqualTo("Petrel Cove Boatyard 4 (C4101) and C4102, Gannet Sound 4");
    }

    /** Dates, PO numbers that look like numbers of ours, words and codes of items. */
    @Test
    void everythingElseStays() {
        for (var text : new String[] {
            "2026-11-28", "PO SO-1001/26", "XSO-1001", "RP-112", "C10", "C1011", "as agreed with C. Petrel"
        }) {
            assertThat(imprint.of(text)).as(text).isSameAs(text);
        }
    }
}
