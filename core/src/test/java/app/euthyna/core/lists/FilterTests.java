package app.euthyna.core.lists;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FilterTests {

    private static final List<Field> FIELDS = List.of(
            new Field("po", "customer PO", FieldKind.TEXT, List.of()),
            new Field("requestedOn", "requested", FieldKind.DAY, List.of()),
            new Field("gross", "gross", FieldKind.AMOUNT, List.of()),
            new Field("toShip", "to ship", FieldKind.QUANTITY, List.of()),
            new Field("lines", "lines", FieldKind.COUNT, List.of()),
            new Field("state", "state", FieldKind.CHOICE, List.of("HELD", "CLEARED", "CANCELLED")),
            new Field("late", "late", FieldKind.FLAG, List.of("YES", "NO")),
            new Field("asOf", "as of", FieldKind.AS_OF, List.of()),
            new Field("customer", "customer", FieldKind.CODE, List.of()));

    private static final List<Filter.Operator> OPERATORS = List.of(Filter.Operator.values());
    private static final List<DaySpan.Calendar> SPANS = List.of(DaySpan.Calendar.values());

    private static Filter read(String written) {
        return Filter.read("orders", FIELDS, written).get();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            po:starts:HP-7, 2nd: left | customer PO begins with “HP-7, 2nd: left”
            po:is:HP-7 | customer PO is “HP-7”
            po:has:7, 2nd | customer PO has “7, 2nd”
            requestedOn:in:last-3-days | requested in the last 3 days
            requestedOn:in:next-10-days | requested in the next 10 days
            requestedOn:in:before-today | requested before today
            requestedOn:between:2026-10-01..2026-10-31 | requested from 1 Oct 2026 to 31 Oct 2026
            requestedOn:between:..2026-10-31 | requested until 31 Oct 2026
            requestedOn:between:2026-10-01.. | requested from 1 Oct 2026
            gross:between:100.00..2500.50 | gross 100.00 to 2,500.50
            gross:between:-10.. | gross at least \u221210
            toShip:between:..3.5 | to ship at most 3.5
            lines:between:2..2 | lines 2 to 2
            state:none:CANCELLED,HELD | state not cancelled, not held
            state:any:HELD,CLEARED | state held or cleared
            late:any:NO | late no
            customer:any:C1001 | customer c1001
            asOf:at:2026-09-30 | as of 30 Sep 2026
            asOf:at:month-2026-09 | as of the end of September 2026
            asOf:at:last-month | as of the end of last month
            asOf:at:yesterday | as of yesterday
            """)
    void readsAndIsWrittenAndSaidAlike(String written, String sentence) {
        var filter = read(written);
        assertThat(filter.written()).isEqualTo(written);
        assertThat(filter.sentence(value -> value.toLowerCase(Locale.ROOT))).isEqualTo(sentence);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "po",
                "po:starts",
                "po:starts:",
                "po:starts:  ",
                "po:any:HP",
                "po:starts:a\tb",
                "po:is:",
                "po:has: ",
                "po:has:a\tb",
                "gross:has:1",
                "state:is:HELD",
                "requestedOn:in:last-0-days",
                "requestedOn:in:last-3661-days",
                "requestedOn:in:last-03-days",
                "requestedOn:in:LAST-3-DAYS",
                "requestedOn:between:2026-02-30..",
                "requestedOn:between:+12026-02-20..",
                "requestedOn:between:..",
                "requestedOn:between:2026-10-31..2026-10-01",
                "requestedOn:between:2026-10-01",
                "gross:between:1,000..",
                "gross:between:1e3..",
                "gross:between:3..2",
                "gross:between:1..2..3",
                "gross:any:5",
                "gross:between: 5..",
                "state:any:",
                "state:any:HELD,,CLEARED",
                "state:any:held",
                "state:maybe:HELD",
                "late:none:YES",
                "late:any:MAYBE",
                "asOf:at:",
                "asOf:at:2026-09-31",
                "asOf:at:last-3-days",
                "asOf:at:before-today",
                "asOf:at:this-year",
                "asOf:at:month-2026-13",
                "asOf:in:2026-09-30",
                "requestedOn:at:2026-09-30",
                "customer:any:",
                "customer:none:C1001,"
            })
    void whatCannotBeReadWithoutGuessingIsRefused(String written) {
        var refused = Filter.read("orders", FIELDS, written);
        assertThat(refused.refusals()).extracting(r -> r.code()).containsExactly("unreadable-filter");
        assertThat(refused.refusals().get(0).sentence()).contains(written);
        assertThat(refused.refusals().get(0).instead()).contains(written.substring(0, 2));
    }

    @ParameterizedTest
    @CsvSource({
        "2026-09-30, 2026-09-30",
        "month-2026-09, 2026-09-30",
        "month-2028-02, 2028-02-29",
        "last-month, 2026-02-28",
        "yesterday, 2026-03-01",
        "today, 2026-03-02"
    })
    void thingsAreToldAtTheEndOfTheLastOfSomeDays(String written, LocalDate day) {
        var asOf = (Filter.AsOf) read("asOf:at:" + written);
        assertThat(asOf.day(LocalDate.of(2026, 3, 2))).isEqualTo(day);
    }

    @Test
    void aFieldThatOneMayNotSeeIsAnsweredLikeOneThatIsNot() {
        var some =
                FIELDS.stream().filter(field -> !field.name().equals("gross")).toList();
        var hidden =
                Filter.read("orders", some, "gross:between:1..2").refusals().get(0);
        var absent = Filter.read("orders", FIELDS, "grossest:between:1..2")
                .refusals()
                .get(0);
        assertThat(hidden.code()).isEqualTo(absent.code()).isEqualTo("unknown-field");
        assertThat(hidden.sentence().replace("gross", "grossest")).isEqualTo(absent.sentence());
    }

    @Test
    void tooManyValuesAndTooLongTextsAreRefused() {
        var codes = new ArrayList<String>();
        for (int at = 0; at < Filter.MOST_VALUES; at++) {
            codes.add("C" + at);
        }
        assertThat(read("customer:any:" + String.join(",", codes))).isNotNull();
        codes.add("one more");
        assertThat(Filter.read("orders", FIELDS, "customer:any:" + String.join(",", codes))
                        .isRefused())
                .isTrue();
        assertThat(read("po:starts:" + "x".repeat(Filter.LONGEST))).isNotNull();
        assertThat(Filter.read("orders", FIELDS, "po:starts:" + "x".repeat(Filter.LONGEST + 1))
                        .isRefused())
                .isTrue();
    }

    /** Whatever is read is written as it was, and read as the same again. */
    @Test
    void randomFiltersAreWrittenAsTheyWereRead() {
        var seed = System.nanoTime();
        System.out.println("FilterTests seed " + seed);
        var random = new Random(seed);
        var readable = 0;
        for (int at = 0; at < 20_000; at++) {
            var field = FIELDS.get(random.nextInt(FIELDS.size()));
            var operator = OPERATORS.get(random.nextInt(OPERATORS.size()));
            var written = field.name() + ":" + operator.written() + ":" + operand(random);
            var filter = Filter.read("orders", FIELDS, written);
            if (!filter.isRefused()) {
                readable++;
                assertThat(filter.get().written()).isEqualTo(written);
                assertThat(read(filter.get().written())).isEqualTo(filter.get());
                assertThat(filter.get().sentence(UnaryOperator.identity())).startsWith(field.words() + " ");
            }
        }
        assertThat(readable).isGreaterThan(1_000);
    }

    private static String operand(Random random) {
        var day = LocalDate.of(2026, 1, 1).plusDays(random.nextInt(400));
        var figure = BigDecimal.valueOf(random.nextInt(100_000) - 20_000, random.nextInt(4));
        return switch (random.nextInt(8)) {
            case 0 -> "last-" + random.nextInt(5_000) + "-days";
            case 1 -> SPANS.get(random.nextInt(SPANS.size())).written();
            case 2 -> day + ".." + (random.nextBoolean() ? "" : day.plusDays(random.nextInt(60) - 10));
            case 3 -> figure.toPlainString() + ".." + figure.add(BigDecimal.valueOf(random.nextInt(9) - 2));
            case 4 -> ".." + figure.toPlainString();
            case 5 -> random.nextBoolean() ? "HELD" : "HELD,CANCELLED";
            case 6 -> "x:y," + random.nextInt(10);
            default -> "";
        };
    }

    @ParameterizedTest
    @CsvSource({
        "today, 2026-11-03, 2026-11-03",
        "yesterday, 2026-11-02, 2026-11-02",
        "before-today, , 2026-11-02",
        "after-today, 2026-11-04, ",
        "this-week, 2026-11-02, 2026-11-08",
        "this-month, 2026-11-01, 2026-11-30",
        "last-month, 2026-10-01, 2026-10-31",
        "this-year, 2026-01-01, 2026-12-31",
        "month-2026-02, 2026-02-01, 2026-02-28",
        "month-2028-02, 2028-02-01, 2028-02-29",
        "last-1-days, 2026-11-03, 2026-11-03",
        "last-3-days, 2026-11-01, 2026-11-03",
        "next-3-days, 2026-11-03, 2026-11-05",
    })
    void spansAreToldFromToday(String written, LocalDate from, LocalDate to) {
        var span = DaySpan.read(written).orElseThrow();
        assertThat(span.on(LocalDate.of(2026, 11, 3)))
                .isEqualTo(new DaySpan.Days(Optional.ofNullable(from), Optional.ofNullable(to)));
        assertThat(span.written()).isEqualTo(written);
    }

    /** The calendar of ISO 8601: weeks begin on Monday; January follows the December of the year before. */
    @Test
    void monthsAndWeeksEndWhereTheCalendarEndsThem() {
        assertThat(DaySpan.Calendar.LAST_MONTH.on(LocalDate.of(2026, 1, 31)))
                .isEqualTo(DaySpan.Days.of(LocalDate.of(2025, 12, 1), LocalDate.of(2025, 12, 31)));
        assertThat(DaySpan.Calendar.THIS_MONTH.on(LocalDate.of(2028, 2, 10)))
                .isEqualTo(DaySpan.Days.of(LocalDate.of(2028, 2, 1), LocalDate.of(2028, 2, 29)));
        assertThat(DaySpan.read("month-2026-10").orElseThrow().words()).isEqualTo("in October 2026");
        assertThat(DaySpan.read("month-2026-13")).isEmpty();
        assertThat(DaySpan.read("month-2026-1")).isEmpty();
        for (int day = 2; day <= 8; day++) {
            assertThat(DaySpan.Calendar.THIS_WEEK.on(LocalDate.of(2026, 11, day)))
                    .isEqualTo(DaySpan.Days.of(LocalDate.of(2026, 11, 2), LocalDate.of(2026, 11, 8)));
        }
    }
}
