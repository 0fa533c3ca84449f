package app.euthyna.server.lists;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.lists.DaySpan;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Measure;
import app.euthyna.core.lists.Tally;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Answers what is asked of a list. A page is found first, by the ids of its rows over as few tables as the filters and
 * the sorting need, and read afterwards: what is joined for its columns costs the same however long the list is.
 */
@Component
class ListReader {

    /** So many rows are counted without being asked to. */
    private static final int MOST_COUNTED = 1_000;

    /** So many rows of a file are read at a time. */
    private static final int TOGETHER = 2_000;

    private final RowFinder finder;
    private final Questions questions;
    private final Company company;
    private final Books books;

    ListReader(RowFinder finder, Questions questions, Company company, Books books) {
        this.finder = finder;
        this.questions = questions;
        this.company = company;
        this.books = books;
    }

    /**
     * A code with the name of what it stands for.
     *
     * @param code as it is written
     */
    record Coded(String code, String name) {}

    /**
     * A row.
     *
     * @param opens the number of the document that it opens; empty for none
     * @param kind of that document
     * @param version that commands about it are checked against; null where the list tells none
     * @param cells by the names of their columns; what is empty is left out
     */
    record Row(long id, String opens, String kind, @Nullable Long version, Map<String, Object> cells) {}

    /** What a register's figures account for, beside the ledger of the same days. */
    record Proven(DaySpan.Days days, List<Register.Tied> figures) {}

    /**
     * Counted and added up over all rows, by the names of the columns; of a median the middle, of a share that of all.
     *
     * @param proof empty where it is no register, where rows are left out for another reason than their day, and for
     *     those who do not read the ledger
     * @param isWhole there are no more rows than were counted; where there are, nothing is added up
     */
    record Totals(long count, Map<String, BigDecimal> sums, Optional<Proven> proof, boolean isWhole) {}

    /**
     * A page.
     *
     * @param looked how many rows were looked at, where that are as many as may be for a page and more may meet the
     *     filters behind them; else 0
     */
    record Page<T>(List<T> rows, @Nullable String next, int looked) {}

    Page<Row> page(ListQuestion asked, @Nullable String after) {
        // what is worked out is read with its keys: it would be worked out for each of them again
        var read = asked.list().isDerived() ? read(asked) : List.<String>of();
        var page = paged(asked, finder.page(asked, read, after, Pages.SIZE + 1), Pages.SIZE);
        return new Page<>(rows(asked, page.rows()), page.next(), page.looked());
    }

    private static Page<KeyReader.Key> paged(ListQuestion asked, KeyReader.Looked found, int most) {
        if (found.until().isPresent()) {
            var until = Pages.cursor(KeyReader.cursor(asked, found.until().get()));
            return new Page<>(found.rows(), until, found.looked());
        }
        var page = Pages.of(found.rows(), most, key -> KeyReader.cursor(asked, key));
        return new Page<>(page.rows(), page.next(), 0);
    }

    /** All rows, read a part at a time by their key. */
    void each(ListQuestion asked, Consumer<Row> taker) {
        String after = null;
        do {
            var part = paged(asked, finder.find(asked, read(asked), after, TOGETHER + 1), TOGETHER);
            rows(asked, part.rows()).forEach(taker);
            after = part.next();
        } while (after != null);
    }

    /** Whether there is any row, or may be. */
    boolean isAny(ListQuestion asked) {
        var found = finder.find(asked, List.of(), null, 1);
        return !found.rows().isEmpty() || found.until().isPresent();
    }

    /** Counted and added up over some rows, by their keys. */
    Totals selected(ListQuestion asked, Long[] keys) {
        var summed = summed(asked);
        var row = counted(asked, Conditions.none(asked.list()).and(keys), summed);
        return new Totals((Long) row[0], sums(summed, row), Optional.empty(), true);
    }

    /** What is read of a row: the document that it opens, its kind and version, and its cells. */
    private static List<String> read(ListQuestion asked) {
        var list = asked.list();
        var opened = list.opened()
                .map(column -> "coalesce(%s, '')".formatted(column.path()))
                .orElse("''");
        var same = list.opened().flatMap(Column::opens).orElse("");
        return Stream.concat(
                        Stream.of(
                                opened,
                                list.kind().orElse("'%s'".formatted(same)),
                                list.version().orElse("0")),
                        asked.columns().stream().flatMap(column -> column.read().stream()))
                .toList();
    }

    /** The rows of a page, in its sequence. */
    private List<Row> rows(ListQuestion asked, List<KeyReader.Key> keys) {
        if (keys.isEmpty()) {
            return List.of();
        }
        var list = asked.list();
        if (!keys.get(0).read().isEmpty()) {
            return keys.stream().map(key -> row(asked, key.id(), key.read())).toList();
        }
        var read = read(asked);
        var conditions = Conditions.none(list).and(ids(keys));
        var text = "select %s, %s from %s"
                .formatted(list.key(), String.join(", ", read), Questions.from(list, conditions, read.stream()));
        var found = new HashMap<Long, Row>();
        for (var row : questions.query(asked, text, conditions).getResultList()) {
            var cells = Arrays.asList(row);
            found.put((Long) row[0], row(asked, (Long) row[0], cells.subList(1, cells.size())));
        }
        return keys.stream().map(key -> found.get(key.id())).toList();
    }

    private Row row(ListQuestion asked, long id, List<Object> read) {
        var kind = read.get(1) == null ? "" : read.get(1).toString();
        var version = asked.list().version().map(path -> ((Number) read.get(2)).longValue());
        return new Row(
                id,
                (String) read.get(0),
                kind,
                version.orElse(null),
                cells(asked.columns(), read.subList(3, read.size())));
    }

    private Map<String, Object> cells(Collection<Column> columns, List<Object> read) {
        var cells = new LinkedHashMap<String, Object>();
        var at = 0;
        for (var column : columns) {
            var value = read.get(at++);
            var name = column.named().isPresent() ? read.get(at++) : null;
            if (value != null) {
                cells.put(
                        column.name(),
                        column.named().isPresent() ? new Coded((String) value, (String) name) : shown(column, value));
            }
        }
        return cells;
    }

    private Object shown(Column column, Object value) {
        if (value instanceof Instant moment) {
            return moment.truncatedTo(ChronoUnit.SECONDS).atZone(company.zone()).toOffsetDateTime();
        }
        return column.kind() == FieldKind.AMOUNT && value != null
                ? company.money((BigDecimal) value).amount()
                : value;
    }

    /** What a column adds up to; nothing where there are no rows. */
    private BigDecimal sum(Column column, @Nullable Object answered) {
        return (BigDecimal) shown(column, figure(answered));
    }

    /** Counted and added up over all rows that meet the filters, and held against the ledger. */
    Totals totals(ListQuestion asked) {
        var proof = asked.list().proofToRead();
        var days = provenDays(asked);
        var ties = days.isEmpty()
                ? List.<Register.Tie>of()
                : proof.get().register().ties();
        var shown = summed(asked);
        var summed = Stream.concat(
                        shown.stream(),
                        ties.stream().map(tie -> asked.list().seen(tie.figure()).orElseThrow()))
                .distinct()
                .toList();
        var row = counted(asked, questions.conditions(asked), summed);
        var all = sums(summed, row);
        var proven = days.map(some -> {
            var moved = books.moved(proof.get().register(), some.from(), some.to());
            return new Proven(
                    some,
                    ties.stream()
                            .map(tie -> tie.with(all.get(tie.figure()), moved))
                            .toList());
        });
        all.keySet().retainAll(shown.stream().map(Column::name).toList());
        measured(asked, () -> questions.conditions(asked), all);
        return new Totals((Long) row[0], all, proven, true);
    }

    /**
     * The same where rows are no more than some; else how many there are at least. What proves itself is always whole.
     */
    Totals capped(ListQuestion asked) {
        if (asked.list().isDerived() || provenDays(asked).isPresent()) {
            return totals(asked);
        }
        var found = finder.find(asked, List.of(), null, MOST_COUNTED + 1);
        var keys = ids(found.rows());
        if (found.until().isPresent() || keys.length > MOST_COUNTED) {
            return new Totals(Math.min(keys.length, MOST_COUNTED), Map.of(), Optional.empty(), false);
        }
        var totals = selected(asked, keys);
        measured(asked, () -> Conditions.none(asked.list()).and(keys), totals.sums());
        return totals;
    }

    private static Long[] ids(List<KeyReader.Key> keys) {
        return Many.ids(keys.stream().map(KeyReader.Key::id).toList());
    }

    /** The days for which it is held against the ledger; empty where it is not. */
    private Optional<DaySpan.Days> provenDays(ListQuestion asked) {
        return asked.list().proofToRead().flatMap(one -> asked.daysAlone(one.day(), company.today()));
    }

    /** What all rows come to by columns that are not added up. */
    private void measured(ListQuestion asked, Supplier<Conditions> conditions, Map<String, BigDecimal> all) {
        asked.columns().stream()
                .filter(column -> column.measure()
                        .filter(measure -> measure != Measure.SUM)
                        .isPresent())
                .forEach(column -> tallied(asked, conditions.get(), List.of(), Optional.of(column)).stream()
                        .map(Part::tally)
                        .reduce(Tally.NONE, Tally::plus)
                        .come(column.measure().get())
                        .ifPresent(measured -> all.put(column.name(), measured)));
    }

    /** Of its columns those that are added up. */
    private static List<Column> summed(ListQuestion asked) {
        return asked.columns().stream()
                .filter(column -> column.traits().contains(Trait.SUMMED))
                .toList();
    }

    private Map<String, BigDecimal> sums(List<Column> summed, Object[] row) {
        var all = new LinkedHashMap<String, BigDecimal>();
        for (int at = 0; at < summed.size(); at++) {
            all.put(summed.get(at).name(), sum(summed.get(at), row[at + 1]));
        }
        return all;
    }

    /** How many rows there are, and the sums of columns behind it. */
    private Object[] counted(ListQuestion asked, Conditions conditions, List<Column> summed) {
        var list = asked.list();
        var sums = summed.stream().map(column -> "sum(%s)".formatted(column.path()));
        var text = "select %s from %s"
                .formatted(
                        Stream.concat(Stream.of("count(%s)".formatted(list.key())), sums)
                                .collect(Collectors.joining(", ")),
                        Questions.from(list, conditions, summed.stream().map(Column::path)));
        return questions.query(asked, text, conditions).getSingleResult();
    }

    /**
     * Rows with the same value.
     *
     * @param value as it is kept; null for those without
     * @param code of what it names, and {@code name}; of a word the word itself
     */
    record Grouped(Object value, String code, String name, Tally tally) {
        private Grouped and(Grouped other) {
            return new Grouped(value, code, name, tally.plus(other.tally));
        }
    }

    /** How many rows there are of each value, and what they come to. */
    List<Grouped> grouped(ListQuestion asked, Grouping grouping) {
        var by = grouping.by();
        var named = by.named().isPresent();
        var keys =
                named ? Stream.concat(Stream.of(by.path()), by.read().stream()).toList() : List.of(by.path());
        var found = new LinkedHashMap<Object, Grouped>();
        for (var row : tallied(asked, questions.conditions(asked), keys, grouping.of())) {
            var value = row.keys().get(0);
            var code = value == null ? "" : (named ? row.keys().get(1) : value).toString();
            var name = named && value != null ? row.keys().get(2).toString() : code;
            found.merge(Optional.ofNullable(value), new Grouped(value, code, name, row.tally()), Grouped::and);
        }
        return List.copyOf(found.values());
    }

    /**
     * Rows that are the same in some keys, as far as the database has put them together.
     *
     * @param keys null for what is empty
     */
    private record Part(List<Object> keys, Tally tally) {}

    /** Counted and measured by some keys. Of a median the values themselves are keys: the database knows no middle. */
    private List<Part> tallied(ListQuestion asked, Conditions conditions, List<String> keys, Optional<Column> of) {
        var measure = of.flatMap(Column::measure);
        var read = new ArrayList<>(keys);
        var together = new ArrayList<>(keys);
        of.ifPresent(column -> {
            if (measure.get() == Measure.MEDIAN) {
                read.add(column.path());
                together.add(column.path());
            }
        });
        read.add("count(%s)".formatted(asked.list().key()));
        of.ifPresent(column -> read.addAll(sums(column)));
        var text = "select %s from %s%s"
                .formatted(
                        String.join(", ", read),
                        Questions.from(asked.list(), conditions, read.stream()),
                        together.isEmpty() ? "" : " group by " + String.join(", ", together));
        return questions.query(asked, text, conditions).getResultList().stream()
                .map(row -> new Part(Arrays.asList(row).subList(0, keys.size()), tally(of, row, keys.size())))
                .toList();
    }

    private static List<String> sums(Column column) {
        return column.rate()
                .map(rate -> List.of("sum(%s)".formatted(rate.of()), "sum(%s)".formatted(rate.per())))
                .orElse(
                        column.measure().equals(Optional.of(Measure.SUM))
                                ? List.of("sum(%s)".formatted(column.path()))
                                : List.of());
    }

    /** @param at where what was counted and measured begins */
    private Tally tally(Optional<Column> of, Object[] row, int at) {
        return switch (of.flatMap(Column::measure).orElse(Measure.COUNT)) {
            case COUNT -> Tally.of((Long) row[at], BigDecimal.ZERO);
            case SUM -> Tally.of((Long) row[at], sum(of.orElseThrow(), row[at + 1]));
            case RATE -> Tally.of((Long) row[at], figure(row[at + 1]), figure(row[at + 2]));
            case MEDIAN ->
                Tally.same(
                        (Long) row[at + 1],
                        Optional.ofNullable(row[at]).map(value -> new BigDecimal(value.toString())));
        };
    }

    private static BigDecimal figure(@Nullable Object answered) {
        return answered == null ? BigDecimal.ZERO : new BigDecimal(answered.toString());
    }
}
