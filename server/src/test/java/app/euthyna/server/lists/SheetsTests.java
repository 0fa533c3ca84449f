package app.euthyna.server.lists;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.euthyna.core.lists.ListRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.lists.ListReader.Coded;
import app.euthyna.server.lists.ListReader.Row;
import app.euthyna.server.lists.ListReader.Totals;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

class SheetsTests {

    /** The words of a choice. */
    private enum State {
        CLOSED_SHORT
    }

    private static final DeclaredList LIST = new DeclaredList(
            "things",
            "Things",
            "thing",
            "things",
            "ThingEntity t",
            "t.id",
            List.of(),
            Set.of(Role.values()),
            Sorting.NEWEST_FIRST,
            List.of(
                    Column.number("number", "Thing", "t.number", "THING").with(Trait.SHOWN),
                    Column.code("owner", "Owner", "t.ownerId", "OwnerEntity", "o", "OWNER")
                            .with(Trait.SHOWN),
                    Column.choice("state", "State", "t.state", State.class).with(Trait.SHOWN),
                    Column.day("on", "On", "t.on").with(Trait.SHOWN),
                    Column.quantity("units", "Units", "t.units").with(Trait.SHOWN, Trait.SUMMED),
                    Column.amount("net", "Net", "t.net").with(Trait.SHOWN, Trait.SUMMED)));

    private final ListReader reader = mock(ListReader.class);
    private final Sheets sheets = new Sheets(reader, new Sentences(mock(Questions.class)));

    private ListPaper.Sheet sheet(long count, String... filters) {
        when(reader.totals(any()))
                .thenReturn(new Totals(
                        count,
                        Map.of("units", new BigDecimal("1200.500"), "net", new BigDecimal("-1234567.80")),
                        Optional.empty(),
                        true));
        return sheets.of(ListQuestion.of(LIST, List.of(filters), null, null));
    }

    @Test
    void rowsAreWrittenAsTheyAreReadAndTheLastAddsThemUp() {
        doAnswer(asked -> {
                    Consumer<Row> taker = asked.getArgument(1);
                    taker.accept(new Row(
                            1,
                            "T-1",
                            "THING",
                            null,
                            Map.of(
                                    "number",
                                    "T-1",
                                    "owner",
                                    new Coded("C1", "Thole Pin Yard"),
                                    "state",
                                    State.CLOSED_SHORT,
                                    "on",
                                    LocalDate.of(2026, 3, 2),
                                    "units",
                                    new BigDecimal("1200.500"),
                                    "net",
                                    new BigDecimal("-1234567.80"))));
                    taker.accept(new Row(2, "T-2", "THING", null, Map.of("number", "T-2")));
                    return null;
                })
                .when(reader)
                .each(any(), any());
        var sheet = sheet(2, "number:starts:t-", "state:any:CLOSED_SHORT");
        assertThat(sheet.rows())
                .containsExactly(
                        List.of("T-1", "Thole Pin Yard", "Closed short", "2 Mar 2026", "1,200.5", "\u22121,234,567.80"),
                        List.of("T-2", "", "", "", "", ""));
        assertThat(sheet.total()).containsExactly("2 things", "", "", "", "1,200.5", "\u22121,234,567.80");
        assertThat(sheet.filters()).containsExactly("thing begins with “t-”", "state closed short");
        assertThat(sheet.columns())
                .extracting(ListPaper.Heading::isFigure)
                .containsExactly(false, false, false, false, true, true);
    }

    @Test
    void oneIsCalledOne() {
        assertThat(sheet(1).total()).startsWith("1 thing");
    }

    @Test
    void whatIsTooLongForPaperIsRefusedBeforeARowIsRead() {
        assertThat(sheet(Sheets.MOST).rows()).isEmpty();
        assertThatThrownBy(() -> sheet(Sheets.MOST + 1L))
                .isInstanceOfSatisfying(
                        RefusedException.class,
                        refused -> assertThat(refused.refusals())
                                .containsExactly(new ListRefusal.TooLongForPaper(2_001, 2_000)));
        verify(reader, never()).page(any(), any());
    }
}
