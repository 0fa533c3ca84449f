package app.euthyna.core.lists;

import app.euthyna.core.lists.DaySpan.Days;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAdjusters;
import java.util.Locale;

/** How days are put together for a chart. */
public enum DayStep {
    DAY {
        @Override
        public Days around(LocalDate day) {
            return Days.of(day, day);
        }

        @Override
        public String words(LocalDate first) {
            return DATE.format(first);
        }
    },
    /** From Monday to Sunday (ISO 8601). */
    WEEK {
        @Override
        public Days around(LocalDate day) {
            var monday = day.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
            return Days.of(monday, monday.plusDays(6));
        }

        @Override
        public String words(LocalDate first) {
            return "week of " + DATE.format(first);
        }
    },
    MONTH {
        @Override
        public Days around(LocalDate day) {
            var month = YearMonth.from(day);
            return Days.of(month.atDay(1), month.atEndOfMonth());
        }

        @Override
        public String words(LocalDate first) {
            return MONTH_OF_YEAR.format(first);
        }
    };

    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("d MMM uuuu", Locale.ENGLISH);
    private static final DateTimeFormatter MONTH_OF_YEAR = DateTimeFormatter.ofPattern("MMM uuuu", Locale.ENGLISH);

    /** The days that a day belongs to. */
    public abstract Days around(LocalDate day);

    /** How they read. */
    public abstract String words(LocalDate first);

    public String written() {
        return name().toLowerCase(Locale.ROOT);
    }
}
