package app.euthyna.core.lists;

import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Figures;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * One condition on the rows of a list. It is written {@code field:operator:operand}, and reads as a sentence; several
 * hold together.
 *
 * <pre>
 * po:starts:HP-7                       what begins so, capitals or not
 * reason:is:too late                   what reads just so, capitals or not
 * name:has:harbour                     what has these letters somewhere, capitals or not
 * requestedOn:in:last-3-days           days told from today on, see {@link DaySpan}
 * requestedOn:between:2026-10-01..2026-10-31
 * gross:between:100..                  either end may be open; both are counted in
 * state:none:CANCELLED,DECLINED        none of these; any: one of these
 * asOf:at:2026-09-30                   as it stood at the end of that day, or of month-2026-09, last-month, yesterday
 * </pre>
 */
public sealed interface Filter {

    Field field();

    /** What follows the name of the field and the operator in its written form. */
    String operand();

    Operator operator();

    /** How it reads after the words of its field: {@code not Cancelled, not Declined}. */
    String words(Function<String, String> named);

    /** How a value is compared. */
    enum Operator {
        STARTS,
        IS,
        HAS,
        IN,
        BETWEEN,
        ANY,
        NONE,
        AT;

        /** As it is written in addresses. */
        public String written() {
            return name().toLowerCase(Locale.ROOT);
        }

        static Optional<Operator> read(String written) {
            return Arrays.stream(values())
                    .filter(o -> o.written().equals(written))
                    .findFirst();
        }
    }

    /** So many characters are compared at most. */
    int LONGEST = 80;
    /** Of a text that is compared whole. */
    int LONGEST_WHOLE = 500;
    /** So many values are compared at most. */
    int MOST_VALUES = 50;
    /** As the application writes figures: no sign, no marks between thousands, a point before the decimals. */
    Pattern FIGURE = Pattern.compile("-?\\d{1,15}(\\.\\d{1,6})?");

    /** As it is written in addresses. */
    default String written() {
        return field().name() + ":" + operator().written() + ":" + operand();
    }

    /**
     * The whole sentence: {@code requested in the last 3 days}.
     *
     * @param named the name of what a {@link FieldKind#CODE} or {@link FieldKind#CHOICE} names
     */
    default String sentence(Function<String, String> named) {
        return field().words() + " " + words(named);
    }

    /**
     * A text that begins so, reads so or has these letters somewhere, as the operator says.
     *
     * @param operator STARTS, IS or HAS
     */
    record Lettered(Field field, Operator operator, String text) implements Filter {
        @Override
        public String operand() {
            return text;
        }

        @Override
        public String words(Function<String, String> named) {
            return "%s “%s”".formatted(operator == Operator.STARTS ? "begins with" : operator.written(), text);
        }
    }

    /** Days that are told from today on. */
    record InSpan(Field field, DaySpan span) implements Filter {
        @Override
        public Operator operator() {
            return Operator.IN;
        }

        @Override
        public String operand() {
            return span.written();
        }

        @Override
        public String words(Function<String, String> named) {
            return span.words();
        }
    }

    /** Days from one to another, both counted in. */
    record Days(Field field, DaySpan.Days days) implements Filter {
        @Override
        public Operator operator() {
            return Operator.BETWEEN;
        }

        @Override
        public String operand() {
            return fromTo(days.from(), days.to());
        }

        @Override
        public String words(Function<String, String> named) {
            return words(days.from().map(Figures::day), days.to().map(Figures::day));
        }

        private static String words(Optional<String> from, Optional<String> to) {
            return from.isEmpty() ? "until " + to.orElseThrow() : ranged(from, to, "from ");
        }
    }

    /** Figures from one to another, both counted in. */
    record Figured(Field field, Optional<BigDecimal> from, Optional<BigDecimal> to) implements Filter {
        @Override
        public Operator operator() {
            return Operator.BETWEEN;
        }

        @Override
        public String operand() {
            return fromTo(from.map(BigDecimal::toPlainString), to.map(BigDecimal::toPlainString));
        }

        @Override
        public String words(Function<String, String> named) {
            var least = from.map(Figures::grouped);
            var most = to.map(Figures::grouped);
            if (least.isEmpty()) {
                return "at most " + most.orElseThrow();
            }
            return most.isEmpty() ? "at least " + least.get() : ranged(least, most, "");
        }
    }

    /**
     * One of some values, or none of them.
     *
     * @param not none of them
     */
    record Among(Field field, List<String> values, boolean not) implements Filter {
        public Among {
            values = List.copyOf(values);
        }

        @Override
        public Operator operator() {
            return not ? Operator.NONE : Operator.ANY;
        }

        @Override
        public String operand() {
            return String.join(",", values);
        }

        @Override
        public String words(Function<String, String> named) {
            return values.stream()
                    .map(value -> (not ? "not " : "") + named.apply(value))
                    .collect(Collectors.joining(not ? ", " : " or "));
        }
    }

    /** As things stood at the end of the last of some days. */
    record AsOf(Field field, DaySpan span) implements Filter {
        @Override
        public Operator operator() {
            return Operator.AT;
        }

        @Override
        public String operand() {
            return span.written();
        }

        @Override
        public String words(Function<String, String> named) {
            return span.lastDay();
        }

        /** The day that is meant. */
        public LocalDate day(LocalDate today) {
            return span.on(today).to().orElseThrow();
        }

        private static Optional<DaySpan> read(String operand) {
            return Filter.day(operand)
                    .<DaySpan>map(DaySpan.Day::new)
                    .or(() -> DaySpan.read(operand)
                            .filter(span -> span instanceof DaySpan.Month || ENDED.contains(span)));
        }

        private static final Set<DaySpan> ENDED =
                Set.of(DaySpan.Calendar.TODAY, DaySpan.Calendar.YESTERDAY, DaySpan.Calendar.LAST_MONTH);
    }

    private static String fromTo(Optional<?> from, Optional<?> to) {
        return from.map(Object::toString).orElse("") + ".."
                + to.map(Object::toString).orElse("");
    }

    private static String ranged(Optional<String> from, Optional<String> to, String before) {
        return before + from.orElseThrow() + to.map(" to "::concat).orElse("");
    }

    /**
     * Reads a filter; refused when it can't be read without guessing.
     *
     * @param fields those of the list that whoever asks may see
     */
    static Decision<Filter> read(String list, List<Field> fields, String written) {
        var parts = written.split(":", 3);
        var field = fields.stream().filter(f -> f.name().equals(parts[0])).findFirst();
        if (field.isEmpty()) {
            return Decision.refused(new ListRefusal.UnknownField(list, parts[0]));
        }
        var operator = parts.length == 3
                ? Operator.read(parts[1]).filter(o -> field.get().kind().has(o))
                : Optional.<Operator>empty();
        return operator.flatMap(o -> read(field.get(), o, parts[2]))
                .<Decision<Filter>>map(Decision::of)
                .orElseGet(() -> Decision.refused(ListRefusal.UnreadableFilter.of(field.get(), written)));
    }

    private static Optional<Filter> read(Field field, Operator operator, String operand) {
        return switch (operator) {
            case STARTS, HAS ->
                isText(operand, LONGEST)
                        ? Optional.of(new Lettered(field, operator, operand.strip()))
                        : Optional.empty();
            case IS ->
                isText(operand, LONGEST_WHOLE) ? Optional.of(new Lettered(field, operator, operand)) : Optional.empty();
            case IN -> DaySpan.read(operand).map(span -> new InSpan(field, span));
            case AT -> AsOf.read(operand).map(span -> new AsOf(field, span));
            case ANY, NONE -> among(field, operand, operator == Operator.NONE);
            case BETWEEN -> between(field, operand);
        };
    }

    private static boolean isText(String operand, int longest) {
        return !operand.isBlank()
                && operand.length() <= longest
                && operand.chars().noneMatch(Character::isISOControl);
    }

    private static Optional<Filter> among(Field field, String operand, boolean not) {
        var values = List.of(operand.split(",", -1));
        var isMeant = values.size() <= MOST_VALUES
                && values.stream()
                        .allMatch(value ->
                                !field.choices().isEmpty() ? field.choices().contains(value) : isText(value, LONGEST));
        return isMeant ? Optional.of(new Among(field, values, not)) : Optional.empty();
    }

    private static Optional<Filter> between(Field field, String operand) {
        var ends = operand.split("\\.\\.", -1);
        if (ends.length != 2 || (ends[0].isEmpty() && ends[1].isEmpty())) {
            return Optional.empty();
        }
        if (field.kind().isDayed()) {
            return ends(ends, Filter::day, LocalDate::compareTo)
                    .map(days -> new Days(field, new DaySpan.Days(days.from(), days.to())));
        }
        return ends(ends, Filter::figure, BigDecimal::compareTo)
                .map(figures -> new Figured(field, figures.from(), figures.to()));
    }

    /** Both ends of what lies between, either of them open. */
    record Ends<T>(Optional<T> from, Optional<T> to) {}

    /** Empty where one can't be read, or the first lies behind the second. */
    private static <T> Optional<Ends<T>> ends(
            String[] written, Function<String, Optional<T>> reader, Comparator<T> order) {
        var from = reader.apply(written[0]);
        var to = reader.apply(written[1]);
        var isRead = from.isPresent() != written[0].isEmpty() && to.isPresent() != written[1].isEmpty();
        var isTurned = from.isPresent() && to.isPresent() && order.compare(from.get(), to.get()) > 0;
        return isRead && !isTurned ? Optional.of(new Ends<>(from, to)) : Optional.empty();
    }

    /** Ten characters: the years that every database knows. */
    private static Optional<LocalDate> day(String written) {
        try {
            return written.length() == 10 ? Optional.of(LocalDate.parse(written)) : Optional.empty();
        } catch (DateTimeException notADay) {
            return Optional.empty();
        }
    }

    private static Optional<BigDecimal> figure(String written) {
        return FIGURE.matcher(written).matches() ? Optional.of(new BigDecimal(written)) : Optional.empty();
    }
}
