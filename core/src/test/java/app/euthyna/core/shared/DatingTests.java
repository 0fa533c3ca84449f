package app.euthyna.core.shared;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.ledger.Periods;
import java.time.LocalDate;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which dates documents may carry, and when a month can be closed (common practice; figures our own). */
class DatingTests {

    private static final LocalDate TODAY = LocalDate.of(2026, 3, 31);
    private static final Person CLERK = new Person("clerk", Role.CLERK);
    private static final Person LEAD = new Person("lead", Role.LEAD);

    @ParameterizedTest
    @CsvSource({
        "2026-03-31, CLERK, '', ''",
        "2026-04-01, CLERK, '', dated-ahead",
        "2126-03-31, LEAD, 'a mistyped year', dated-ahead",
        "2026-02-28, CLERK, '', ''",
        "2026-02-27, CLERK, '', dated-too-far-back",
        "2026-02-27, CLERK, 'a reason', dated-too-far-back",
        "2026-02-27, LEAD, '', dated-too-far-back",
        "2026-02-27, LEAD, 'the paper was found late', ''",
        "1999-12-31, LEAD, 'a reason', dated-too-far-back",
        "1500-01-01, LEAD, 'a reason', dated-too-far-back",
    })
    void aDocumentIsDatedTodayOrAMonthBackAndFurtherOnlyByTheLead(LocalDate on, Role role, String reason, String code) {
        assertThat(Dating.refusal(on, TODAY, 31, new Person("someone", role), reason)
                        .map(Refusal::code)
                        .orElse(""))
                .isEqualTo(code);
    }

    @Test
    void aDeputyOfTheLeadDatesAsTheLeadDoes() {
        var deputy = new Person("controller", Role.CONTROLLER, java.util.Set.of(Role.LEAD));
        assertThat(Dating.refusal(TODAY.minusDays(40), TODAY, 31, deputy, "found late"))
                .isEmpty();
    }

    @Test
    void theCompanySaysHowFarBackAnybodyMayDate() {
        assertThat(Dating.refusal(TODAY.minusDays(5), TODAY, 4, CLERK, "")).isPresent();
        assertThat(Dating.refusal(TODAY.minusDays(5), TODAY, 5, CLERK, "")).isEmpty();
        assertThat(Dating.refusal(TODAY.minusDays(1), TODAY, 0, CLERK, "")).isPresent();
    }

    @Test
    void theMonthDoesNotBindBookingDaysOfABank() {
        assertThat(Dating.bookingDay(TODAY.minusDays(300), TODAY)).isEmpty();
        assertThat(Dating.bookingDay(TODAY.plusDays(1), TODAY).orElseThrow().code())
                .isEqualTo("dated-ahead");
        assertThat(Dating.bookingDay(LocalDate.of(1500, 1, 1), TODAY)
                        .orElseThrow()
                        .code())
                .isEqualTo("dated-too-far-back");
    }

    @ParameterizedTest
    @CsvSource({
        "2026-01-15, 2026-01-02, '', true",
        "2026-01-15, 2025-12-31, '', true",
        "2026-01-15, 2025-12-31, 2025-11-30, true",
        "2026-01-15, 2025-12-31, 2025-12-31, false",
        "2026-01-15, 2024-12-31, '', false",
        "2026-01-15, 1926-01-15, '', false",
    })
    void aSeriesIsOpenInItsYearAndTheNextWhileAPeriodOfItIs(
            LocalDate today, LocalDate on, String closed, boolean open) {
        assertThat(Dating.series(on, today, closed.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(closed)))
                        .isEmpty())
                .isEqualTo(open);
    }

    @ParameterizedTest
    @CsvSource({
        "2026-02-28, '', ''",
        "2026-03-31, '', period-not-over",
        "2026-04-30, '', period-not-over",
        "2026-02-27, '', incomplete",
        "2026-02-28, 2026-01-31, ''",
        "2026-02-28, 2025-12-31, incomplete",
        "2026-01-31, 2026-01-31, incomplete",
        "2024-02-29, '', ''",
        "2024-02-28, '', incomplete",
    })
    void aMonthIsClosedWhenItIsOverOneAfterTheOther(LocalDate through, String closed, String code) {
        assertThat(Periods.closing(
                                through,
                                TODAY,
                                closed.isEmpty() ? Optional.empty() : Optional.of(LocalDate.parse(closed)),
                                LEAD)
                        .map(Refusal::code)
                        .orElse(""))
                .isEqualTo(code);
    }

    @Test
    void onlyTheLeadCloses() {
        assertThat(Periods.closing(LocalDate.of(2026, 2, 28), TODAY, Optional.empty(), CLERK)
                        .orElseThrow()
                        .code())
                .isEqualTo("not-authorised");
    }

    @Test
    void aSpanEndsNotBeforeItBegins() {
        assertThat(Dating.span("from", TODAY, "to", TODAY)).isEmpty();
        assertThat(Dating.span("from", null, "to", TODAY)).isEmpty();
        assertThat(Dating.span("from", TODAY, "to", TODAY.minusDays(1)).get(0).sentence())
                .isEqualTo("to: a day on or after from, which is 31 Mar 2026.");
    }
}
