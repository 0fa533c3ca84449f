package app.euthyna.core.ledger;

import static app.euthyna.core.Given.eur;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** Months are closed one after the other, and take no entry then (section 8). */
class PeriodsTests {

    private static final Person LEAD = new Person("lead", Role.LEAD);
    private static final LocalDate TODAY = LocalDate.of(2026, 3, 16);
    private static final Optional<LocalDate> JANUARY = Optional.of(LocalDate.of(2026, 1, 31));

    private static String code(Optional<Refusal> refusal) {
        return refusal.map(Refusal::code).orElse("none");
    }

    @ParameterizedTest
    @CsvSource({"2026-01-31,period-closed", "2026-01-01,period-closed", "2025-12-31,period-closed", "2026-02-01,none"})
    void takeNoEntryUpToTheDayThroughWhichTheyAreClosed(LocalDate date, String code) {
        assertThat(code(Periods.refusal(date, JANUARY))).isEqualTo(code);
        assertThat(code(Periods.refusal(date, Optional.empty()))).isEqualTo("none");
    }

    @Test
    void sayThroughWhichDayTheyAreClosed() {
        assertThat(Periods.refusal(LocalDate.of(2026, 1, 15), JANUARY).orElseThrow())
                .isEqualTo(new Periods.PeriodClosed(LocalDate.of(2026, 1, 15), LocalDate.of(2026, 1, 31)));
    }

    @ParameterizedTest
    @CsvSource({
        "2026-02-28,none",
        "2026-02-27,incomplete",
        "2026-01-31,incomplete",
        "2026-03-16,period-not-over",
        "2026-03-31,period-not-over"
    })
    void areClosedWhenTheyAreOverAndAMonthLong(LocalDate through, String code) {
        assertThat(code(Periods.closing(through, TODAY, JANUARY, LEAD))).isEqualTo(code);
    }

    @Test
    void beginWithAnyMonthThatIsOver() {
        assertThat(Periods.closing(LocalDate.of(2025, 6, 30), TODAY, Optional.empty(), LEAD))
                .isEmpty();
        assertThat(Periods.closing(LocalDate.of(2024, 2, 29), TODAY, Optional.of(LocalDate.of(2024, 1, 31)), LEAD))
                .as("a leap day ends its month")
                .isEmpty();
    }

    @Test
    void areSuggestedInTheirTurn() {
        assertThat(Periods.next(TODAY, Optional.empty())).isEqualTo("2026-02-28");
        assertThat(Periods.next(LocalDate.of(2026, 12, 1), JANUARY)).isEqualTo("2026-02-28");
        assertThat(Periods.next(TODAY, Optional.of(LocalDate.of(2023, 12, 31)))).isEqualTo("2024-01-31");
    }

    @Test
    void sayWhichMonthIsNext() {
        assertThat(Periods.closing(LocalDate.of(2025, 12, 31), TODAY, JANUARY, LEAD)
                        .orElseThrow()
                        .sentence())
                .isEqualTo("through: 28 Feb 2026: months are closed one after the other.");
        assertThat(Periods.closing(LocalDate.of(2026, 3, 15), TODAY, JANUARY, LEAD)
                        .orElseThrow()
                        .sentence())
                .isEqualTo("through: the last day of a month, such as 28 Feb 2026.");
    }

    @ParameterizedTest
    @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "LEAD")
    void areTheFinanceLeadsToCloseAndReopen(Role role) {
        var other = new Person("other", role);
        assertThat(code(Periods.closing(LocalDate.of(2026, 2, 28), TODAY, JANUARY, other)))
                .isEqualTo("not-authorised");
        assertThat(code(Periods.reopening(JANUARY, other, "an invoice was late")))
                .isEqualTo("not-authorised");
    }

    @Test
    void areReopenedForAReasonWhereOneIsClosed() {
        assertThat(Periods.reopening(JANUARY, LEAD, "an invoice was late")).isEmpty();
        assertThat(code(Periods.reopening(JANUARY, LEAD, " "))).isEqualTo("incomplete");
        assertThat(code(Periods.reopening(Optional.empty(), LEAD, "an invoice was late")))
                .isEqualTo("not-found");
    }

    @Test
    void anEntryIsMirroredLineByLineForTheSameDocument() {
        var document = new DocumentRef(DocumentKind.INVOICE, "2026-00001");
        var entry = new Entry(
                "J-1",
                LocalDate.of(2026, 1, 15),
                "invoice",
                document,
                "C-1",
                List.of(
                        new EntryLine(AccountRole.RECEIVABLES, "1200", eur("12.10")),
                        new EntryLine(AccountRole.REVENUE, "4000", eur("-10.00")),
                        new EntryLine(AccountRole.OUTPUT_VAT, "2200", eur("-2.10"))));
        assertThat(entry.mirror("J-2", TODAY))
                .isEqualTo(new Entry(
                        "J-2",
                        TODAY,
                        "reversal: invoice",
                        document,
                        "C-1",
                        List.of(
                                new EntryLine(AccountRole.RECEIVABLES, "1200", eur("-12.10")),
                                new EntryLine(AccountRole.REVENUE, "4000", eur("10.00")),
                                new EntryLine(AccountRole.OUTPUT_VAT, "2200", eur("2.10")))));
    }
}
