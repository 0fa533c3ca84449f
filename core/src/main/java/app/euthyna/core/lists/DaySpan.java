package app.euthyna.core.lists;

import app.euthyna.core.shared.Figures;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.format.TextStyle;
import java.time.temporal.TemporalAdjusters;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Days told from today on, so that a view of them is as true tomorrow: {@code today}, {@code last-3-days},
 * {@code this-month}, {@code before-today}.
 */
public sealed interface DaySpan {

    /** So many days back or ahead can be asked for: ten years. */
    int MOST = 3660;

    /** The days that are meant, on a day; either end may be open. */
    Days on(LocalDate today);

    /** As it is written in addresses. */
    String written();

    /** As it reads in a sentence: {@code in the last 3 days}. */
    String words();

    /** As its last day reads in a sentence: {@code the end of last month}. */
    default String lastDay() {
        return words();
    }

    /**
     * Days from one to another, both counted in.
     *
     * @param from empty for all before
     * @param to empty for all after
     */
    record Days(Optional<LocalDate> from, Optional<LocalDate> to) {
        public static final Days ALL = new Days(Optional.empty(), Optional.empty());

        /** The days that lie in both; none where the first of them is after the last. */
        public Days and(Days other) {
            return new Days(
                    Stream.of(from, other.from).flatMap(Optional::stream).max(Comparator.naturalOrder()),
                    Stream.of(to, other.to).flatMap(Optional::stream).min(Comparator.naturalOrder()));
        }

        static Days of(LocalDate from, LocalDate to) {
            return new Days(Optional.of(from), Optional.of(to));
        }
    }

    /** Spans that stand in every calendar; weeks begin on Monday (ISO 8601). */
    enum Calendar implements DaySpan {
        TODAY("today", "today") {
            @Override
            public Days on(LocalDate today) {
                return Days.of(today, today);
            }
        },
        YESTERDAY("yesterday", "yesterday") {
            @Override
            public Days on(LocalDate today) {
                return Days.of(today.minusDays(1), today.minusDays(1));
            }
        },
        BEFORE_TODAY("before-today", "before today") {
            @Override
            public Days on(LocalDate today) {
                return new Days(Optional.empty(), Optional.of(today.minusDays(1)));
            }
        },
        AFTER_TODAY("after-today", "after today") {
            @Override
            public Days on(LocalDate today) {
                return new Days(Optional.of(today.plusDays(1)), Optional.empty());
            }
        },
        THIS_WEEK("this-week", "this week") {
            @Override
            public Days on(LocalDate today) {
                var monday = today.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
                return Days.of(monday, monday.plusDays(6));
            }
        },
        THIS_MONTH("this-month", "this month") {
            @Override
            public Days on(LocalDate today) {
                return month(today);
            }
        },
        LAST_MONTH("last-month", "last month") {
            @Override
            public Days on(LocalDate today) {
                return month(today.minusMonths(1));
            }

            @Override
            public String lastDay() {
                return "the end of last month";
            }
        },
        THIS_YEAR("this-year", "this year") {
            @Override
            public Days on(LocalDate today) {
                return Days.of(today.withDayOfYear(1), today.with(TemporalAdjusters.lastDayOfYear()));
            }
        };

        private final String written;
        private final String words;

        Calendar(String written, String words) {
            this.written = written;
            this.words = words;
        }

        private static Days month(LocalDate day) {
            return Days.of(day.withDayOfMonth(1), day.with(TemporalAdjusters.lastDayOfMonth()));
        }

        @Override
        public String written() {
            return written;
        }

        @Override
        public String words() {
            return words;
        }
    }

    /** So many days, the last of them today. */
    record LastDays(int days) implements DaySpan {
        @Override
        public Days on(LocalDate today) {
            return Days.of(today.minusDays(days - 1L), today);
        }

        @Override
        public String written() {
            return "last-%d-days".formatted(days);
        }

        @Override
        public String words() {
            return "in the last %d days".formatted(days);
        }
    }

    /** So many days, the first of them today. */
    record NextDays(int days) implements DaySpan {
        @Override
        public Days on(LocalDate today) {
            return Days.of(today, today.plusDays(days - 1L));
        }

        @Override
        public String written() {
            return "next-%d-days".formatted(days);
        }

        @Override
        public String words() {
            return "in the next %d days".formatted(days);
        }
    }

    /** All days of a month. */
    record Month(YearMonth month) implements DaySpan {
        @Override
        public Days on(LocalDate today) {
            return Days.of(month.atDay(1), month.atEndOfMonth());
        }

        @Override
        public String written() {
            return "month-" + month;
        }

        @Override
        public String words() {
            return "in " + name();
        }

        @Override
        public String lastDay() {
            return "the end of " + name();
        }

        private String name() {
            return "%s %d".formatted(month.getMonth().getDisplayName(TextStyle.FULL, Locale.ENGLISH), month.getYear());
        }
    }

    /** One day, whatever day it is. */
    record Day(LocalDate day) implements DaySpan {
        @Override
        public Days on(LocalDate today) {
            return Days.of(day, day);
        }

        @Override
        public String written() {
            return day.toString();
        }

        @Override
        public String words() {
            return Figures.day(day);
        }
    }

    Pattern MONTH = Pattern.compile("month-(\\d{4}-(?:0[1-9]|1[0-2]))");
    Pattern COUNTED = Pattern.compile("(last|next)-([1-9]\\d{0,3})-days");

    /** Reads what is written in an address; empty where it is no span. */
    static Optional<DaySpan> read(String written) {
        var counted = COUNTED.matcher(written);
        if (counted.matches()) {
            var days = Integer.parseInt(counted.group(2));
            return days > MOST
                    ? Optional.empty()
                    : Optional.of(counted.group(1).equals("last") ? new LastDays(days) : new NextDays(days));
        }
        var month = MONTH.matcher(written);
        if (month.matches()) {
            return Optional.of(new Month(YearMonth.parse(month.group(1))));
        }
        return Stream.<DaySpan>of(Calendar.values())
                .filter(span -> span.written().equals(written))
                .findFirst();
    }
}
