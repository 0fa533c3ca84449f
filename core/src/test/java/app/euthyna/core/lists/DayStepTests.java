package app.euthyna.core.lists;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.time.temporal.IsoFields;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class DayStepTests {

    @ParameterizedTest
    @CsvSource({
        "DAY, 2026-10-31, 2026-10-31, 2026-10-31, 31 Oct 2026",
        "WEEK, 2026-11-01, 2026-10-26, 2026-11-01, week of 26 Oct 2026",
        "WEEK, 2027-01-01, 2026-12-28, 2027-01-03, week of 28 Dec 2026",
        "MONTH, 2028-02-29, 2028-02-01, 2028-02-29, Feb 2028",
    })
    void daysArePutTogether(DayStep step, LocalDate day, LocalDate from, LocalDate to, String words) {
        assertThat(step.around(day)).isEqualTo(DaySpan.Days.of(from, to));
        assertThat(step.words(from)).isEqualTo(words);
    }

    /** Whatever the day: it lies in its span, and every day of the span has the same one. */
    @ParameterizedTest
    @EnumSource
    void spansNeitherOverlapNorLeaveADayOut(DayStep step) {
        var random = new Random(7);
        for (int at = 0; at < 2_000; at++) {
            var day = LocalDate.of(2020, 1, 1).plusDays(random.nextInt(6_000));
            var span = step.around(day);
            var first = span.from().orElseThrow();
            var last = span.to().orElseThrow();
            assertThat(day).isBetween(first, last);
            assertThat(step.around(first)).isEqualTo(span);
            assertThat(step.around(last)).isEqualTo(span);
            assertThat(step.around(last.plusDays(1)).from()).contains(last.plusDays(1));
        }
    }

    /** ISO 8601 as java.time has it. */
    @Test
    void weeksAreThoseOfTheStandard() {
        for (int at = 0; at < 800; at++) {
            var day = LocalDate.of(2025, 12, 1).plusDays(at);
            var monday = DayStep.WEEK.around(day).from().orElseThrow();
            assertThat(monday.get(IsoFields.WEEK_OF_WEEK_BASED_YEAR))
                    .isEqualTo(day.get(IsoFields.WEEK_OF_WEEK_BASED_YEAR));
            assertThat(monday.get(IsoFields.WEEK_BASED_YEAR)).isEqualTo(day.get(IsoFields.WEEK_BASED_YEAR));
        }
    }
}
