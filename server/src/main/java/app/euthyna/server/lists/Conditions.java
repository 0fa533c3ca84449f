package app.euthyna.server.lists;

import app.euthyna.core.lists.DaySpan;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Filter;
import app.euthyna.server.platform.Likes;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Filters as conditions in HQL. Their texts are made of what is declared alone; whatever somebody asked for is a
 * parameter.
 */
final class Conditions {

    /** Behind all that begins alike. */
    private static final String LAST = "\uffff";

    /**
     * The company's days.
     *
     * @param today in its time zone
     */
    record Calendar(LocalDate today, ZoneId zone) {
        private static final Calendar NONE = new Calendar(LocalDate.MIN, ZoneOffset.UTC);

        private Instant start(LocalDate day) {
            return day.atStartOfDay(zone).toInstant();
        }
    }

    private final List<String> texts = new ArrayList<>();
    /** What leads to the rows that meet them. */
    private final List<String> joins = new ArrayList<>();

    private final Map<String, Object> values = new LinkedHashMap<>();
    /** Columns that are the same in all rows: an index that begins with one is read in its sequence. */
    private final List<String> fixed = new ArrayList<>();

    private final DeclaredList list;
    private final Calendar calendar;
    private final BiFunction<Column, List<String>, Long[]> ids;

    /** Rows are looked at one after the other: what would lead to few of them is asked of each. */
    private boolean isLooked;

    /** Which rows are worked out at all; see {@link DeclaredList.Derived}. */
    private String those = "true = true";

    private Conditions(DeclaredList list, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        this.list = list;
        this.calendar = calendar;
        this.ids = ids;
    }

    /** @param ids of what codes of a column name */
    static Conditions of(ListQuestion asked, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = own(asked.list(), calendar, ids);
        var isToday = asked.asOf(calendar.today()).equals(calendar.today());
        asked.list()
                .within()
                .map(within -> isToday ? within.today() : within.asOf())
                .ifPresent(part -> {
                    conditions.joins.add(part.join());
                    conditions.add(part.condition());
                });
        if (isToday) {
            asked.list().within().flatMap(DeclaredList.Within::by).ifPresent(conditions.fixed::add);
        }
        asked.filters().forEach(conditions::add);
        return conditions;
    }

    /** One filter alone, whether or not the list has a row that meets it. */
    static Conditions of(
            DeclaredList list, Filter filter, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = new Conditions(list, calendar, ids);
        conditions.add(filter);
        return conditions;
    }

    /**
     * For rows that are looked at in the sequence of a path: the conditions by the path itself, which leave rows out
     * from the beginning.
     *
     * @param others whether to meet all others, too: as one condition, through which the database can't find rows in
     *     another sequence
     */
    static Conditions looking(
            ListQuestion asked,
            String by,
            boolean others,
            Calendar calendar,
            BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = looked(asked, calendar, ids);
        var found = asked.list().within().flatMap(DeclaredList.Within::by);
        conditions.keepOutside(Stream.concat(Stream.of(by), found.stream()).toList(), others);
        found.ifPresent(conditions.fixed::add);
        return conditions;
    }

    /**
     * For rows that something leads to: the conditions by a path that does; all others are one, so that the database
     * finds them through nothing else.
     *
     * @param by empty where they are led to by their keys
     */
    static Conditions led(
            ListQuestion asked, String by, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = looked(asked, calendar, ids);
        conditions.keepOutside(List.of(by), true);
        return conditions;
    }

    /** What rows of a day gone by are among; see {@link DeclaredList.Within#among}. */
    static Conditions among(ListQuestion asked, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = own(asked.list(), calendar, ids);
        asked.list().within().map(DeclaredList.Within::among).orElse(List.of()).forEach(conditions::add);
        return conditions;
    }

    private static Conditions looked(
            ListQuestion asked, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = own(asked.list(), calendar, ids);
        conditions.isLooked = true;
        asked.list().within().ifPresent(within -> conditions.add(within.today().condition()));
        asked.filters().forEach(conditions::add);
        return conditions;
    }

    /** Leaves the conditions by some paths as they are, and makes one of all others, or none. */
    private void keepOutside(List<String> paths, boolean others) {
        var rest = texts.stream()
                .filter(text -> paths.stream().noneMatch(path -> text.startsWith(path + " ")))
                .toList();
        texts.removeAll(rest);
        fixed.clear();
        if (others && !rest.isEmpty()) {
            add("(case when (%s) then 1 else 0 end) = 1".formatted(String.join(") and (", rest)));
        }
    }

    /** Of a list as it is kept, before any condition: for rows that were found already, or are counted. */
    static Conditions none(DeclaredList list) {
        return own(list, Calendar.NONE, (column, codes) -> new Long[0]);
    }

    /** Of those rows that whoever asks may read. */
    private static Conditions own(DeclaredList list, Calendar calendar, BiFunction<Column, List<String>, Long[]> ids) {
        var conditions = new Conditions(list, calendar, ids);
        list.ownRows().ifPresent(conditions::add);
        return conditions;
    }

    List<String> texts() {
        return texts;
    }

    List<String> joins() {
        return joins;
    }

    Map<String, Object> values() {
        return values;
    }

    List<String> fixed() {
        return fixed;
    }

    /** And one of some rows, by their keys. */
    Conditions and(Long[] keys) {
        return among(list.key(), keys);
    }

    /** The base of the list, where it is worked out for some rows alone. */
    String base() {
        return list.base().replace(DeclaredList.THOSE, those);
    }

    /** And worked out for some ids alone, where rows are worked out one by one. */
    Conditions those(Long[] ids) {
        list.derived()
                .flatMap(DeclaredList.Derived::from)
                .ifPresent(from -> those = "%s contains %s".formatted(parameter(ids), from));
        return this;
    }

    /** And what a path holds is one of some ids. */
    Conditions among(String path, Long[] some) {
        add("%s contains %s".formatted(parameter(some), path));
        return this;
    }

    /** And by a day within some. */
    Conditions between(String by, DaySpan.Days days) {
        days.from().ifPresent(from -> add("%s >= %s".formatted(by, parameter(from))));
        days.to().ifPresent(to -> add("%s <= %s".formatted(by, parameter(to))));
        return this;
    }

    /** A condition of another making. */
    void add(String text) {
        texts.add(text);
    }

    /** A new parameter; its name for the text. */
    String parameter(Object value) {
        var name = "p" + values.size();
        values.put(name, value);
        return ":" + name;
    }

    private void add(Filter filter) {
        var column = list.seen(filter.field().name()).orElseThrow();
        if (filter instanceof Filter.Lettered lettered) {
            lettered(column, lettered);
        } else if (filter instanceof Filter.InSpan span) {
            days(column, span.span().on(calendar.today()));
        } else if (filter instanceof Filter.Days days) {
            days(column, days.days());
        } else if (filter instanceof Filter.Figured figured) {
            between(column, figured.from(), figured.to());
        } else if (filter instanceof Filter.Among among) {
            among(column, among);
        }
        // as of a day nothing is left out: it stands in the texts themselves
    }

    private void lettered(Column column, Filter.Lettered lettered) {
        var folding = column.folding().orElseThrow();
        var text = folding.fold().apply(lettered.text());
        switch (lettered.operator()) {
            case STARTS -> {
                add(folding.path() + " >= " + parameter(text));
                add(folding.path() + " < " + parameter(text + LAST));
            }
            case HAS -> add("%s like %s escape '!'".formatted(folding.path(), parameter(Likes.containing(text))));
            default -> same(folding.path(), text);
        }
    }

    /** A moment is of a day from its first instant on, up to the first of the next. */
    private void days(Column column, DaySpan.Days days) {
        if (column.kind() == FieldKind.MOMENT) {
            days.from().ifPresent(from -> add("%s >= %s".formatted(column.path(), parameter(calendar.start(from)))));
            days.to()
                    .ifPresent(to ->
                            add("%s < %s".formatted(column.path(), parameter(calendar.start(to.plusDays(1))))));
            return;
        }
        if (days.from().isPresent() && days.from().equals(days.to())) {
            same(column.path(), days.from().get());
        } else {
            between(column.path(), days);
        }
    }

    private void between(Column column, Optional<BigDecimal> from, Optional<BigDecimal> to) {
        Function<BigDecimal, Object> kept =
                figure -> column.kind() == FieldKind.COUNT ? (Object) figure.longValue() : figure;
        from.ifPresent(least -> add(column.path() + " >= " + parameter(kept.apply(least))));
        to.ifPresent(most -> add(column.path() + " <= " + parameter(kept.apply(most))));
    }

    private void among(Column column, Filter.Among among) {
        if (column.kind() == FieldKind.CODE) {
            var named = ids.apply(column, among.values());
            if (!among.not() && named.length == 1) {
                same(column.path(), named[0]);
            } else {
                add("%s (%s contains %s)".formatted(among.not() ? "not" : "", parameter(named), column.path()));
            }
            return;
        }
        if (column.kind() == FieldKind.FLAG) {
            flag(column, among.values());
            return;
        }
        if (!among.not() && among.values().size() == 1) {
            same(column.path(), column.kept(among.values().get(0)));
            return;
        }
        // not an array of them: Hibernate compares no constants with it
        add(among.values().stream()
                .map(value -> column.path() + (among.not() ? " <> " : " = ") + parameter(column.kept(value)))
                .collect(Collectors.joining(among.not() ? " and " : " or ")));
    }

    /** Both of them are all; what can't be told of a row is not so. */
    private void flag(Column column, List<String> values) {
        if (values.stream().distinct().count() > 1) {
            return;
        }
        if (!values.contains(Column.YES)) {
            add("(case when %s then 1 else 0 end) = 0".formatted(column.path()));
        } else if (column.through().isPresent() && !isLooked) {
            joins.add(column.through().get().join());
            add(column.through().get().condition());
        } else {
            add(column.path());
        }
    }

    private void same(String path, Object value) {
        add(path + " = " + parameter(value));
        fixed.add(path);
    }
}
