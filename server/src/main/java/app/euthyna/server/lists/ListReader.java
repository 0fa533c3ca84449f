package app.euthyna.server.lists;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.lists.DaySpan;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Measure;
import app.euthyna.core.lists.Tally;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Likes;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.hibernate.query.SelectionQuery;
import org.springframework.stereotype.Component;

/**
 * Answers what is asked of a list. A page is found first, by the ids of its rows over as few tables as the filters and
 * the sorting need, and read afterwards: what is joined for its columns costs the same however long the list is.
 */
@Component
class ListReader {

    private static final Pattern ALIAS = Pattern.compile("\\b([a-z]\\w*)\\.");

    /** So many rows of a file are read at a time. */
    private static final int TOGETHER = 2_000;

    /** So many are offered while one types. */
    private static final int OFFERED = 12;

    private record Codes(String entity, List<String> codes) {}

    private final TransactionCache<Codes, List<Found>> coded = TransactionCache.readThrough();
    private final StatelessSession session;
    private final Company company;
    private final Books books;

    ListReader(StatelessSession session, Company company, Books books) {
        this.session = session;
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
     * @param cells by the names of their columns; what is empty is left out
     */
    record Row(long id, String opens, String kind, Map<String, Object> cells) {}

    /** What a register's figures account for, beside the ledger of the same days. */
    record Proven(DaySpan.Days days, List<Register.Tied> figures) {}

    /**
     * Counted and added up over all rows, by the names of the columns; of a median the middle, of a share that of all.
     *
     * @param proof empty where it is no register, where rows are left out for another reason than their day, and for
     *     those who do not read the ledger
     */
    record Totals(long count, Map<String, BigDecimal> sums, Optional<Proven> proof) {}

    Pages.Page<Row> page(ListQuestion asked, @Nullable String after) {
        var keys = keys(asked, after, Pages.SIZE + 1);
        var page = Pages.of(keys, key -> cursor(asked, key));
        return new Pages.Page<>(rows(asked, page.rows()), page.next());
    }

    /** All rows, read a part at a time by their key. */
    void each(ListQuestion asked, Consumer<Row> taker) {
        String after = null;
        do {
            var keys = keys(asked, after, TOGETHER + 1);
            var part = Pages.of(keys, TOGETHER, key -> cursor(asked, key));
            rows(asked, part.rows()).forEach(taker);
            after = part.next();
        } while (after != null);
    }

    /** What begins with a text among what a column can name: the first few by their names. */
    List<Found> offered(Column column, String start) {
        var typed = start.toLowerCase(Locale.ROOT);
        return session.createSelectionQuery(
                        """
                        select x.id, x.code, x.name from %s x
                        where lower(x.name) like :name escape '!' or lower(x.code) like :code escape '!'
                        order by x.name, x.id""".formatted(column.named().orElseThrow().entity()), Found.class)
                .setParameter("name", Likes.containing(typed))
                .setParameter("code", Likes.from(typed))
                .setMaxResults(OFFERED)
                .getResultList();
    }

    /** A row that was found, and what it is sorted by. */
    private record Key(long id, String sorted) {}

    /** The same for the last row of a page. */
    private static List<String> cursor(ListQuestion asked, Key last) {
        return List.of(asked.sort(), last.sorted(), String.valueOf(last.id()));
    }

    private List<Key> keys(ListQuestion asked, @Nullable String after, int most) {
        var column = asked.sortedBy()
                .filter(sorted -> sorted.named().isPresent())
                .filter(sorted -> asked.filters().stream()
                        .noneMatch(filter -> filter.field().equals(sorted.field())));
        return column.isPresent() ? byName(asked, column.get(), after, most) : keys(asked, after, most, List.of());
    }

    /** So many names are gone through at first; each time four times as many. */
    private static final int NAMES = 8;

    /**
     * Rows in the sequence of what they name: its names are gone through, and the rows of some looked for together,
     * since rows have an index by what they name, and none by its name.
     */
    private List<Key> byName(ListQuestion asked, Column column, @Nullable String after, int most) {
        var found = new ArrayList<Key>();
        var start = Optional.ofNullable(after).map(cursor -> Pages.key(cursor).text(1));
        var isBegun = start.isPresent();
        for (int count = NAMES; ; count *= 4) {
            var some = someNamed(asked, column, start, isBegun, count);
            if (!some.ids().isEmpty()) {
                found.addAll(keys(asked, after, most - found.size(), some.ids()));
            }
            if (found.size() >= most || some.last().isEmpty()) {
                return found;
            }
            start = some.last();
            isBegun = false;
        }
    }

    /**
     * Of what a column names the next in the sequence of their names.
     *
     * @param last the name that they end with; empty where there are no more
     */
    private record Some(List<Long> ids, Optional<String> last) {}

    /** @param begun whether the start itself is meant too */
    private Some someNamed(ListQuestion asked, Column column, Optional<String> start, boolean begun, int count) {
        var down = asked.sorting().descending();
        var than = (down ? "<" : ">") + (begun ? "=" : "");
        var entity = column.named().orElseThrow().entity();
        var from = start.isPresent() ? "where x.name %s :start ".formatted(than) : "";
        var names = session.createSelectionQuery(
                "select x.name from %s x %sorder by x.name%s".formatted(entity, from, down ? " desc" : ""),
                String.class);
        start.ifPresent(name -> names.setParameter("start", name));
        var last = names.setFirstResult(count - 1).setMaxResults(1).getResultList().stream()
                .findFirst();
        var to = last.map(name -> "x.name %s :last".formatted(down ? ">=" : "<="))
                .orElse("true = true");
        var ids = session.createSelectionQuery(
                "select x.id from %s x %s %s %s".formatted(entity, from, from.isEmpty() ? "where" : "and", to),
                Long.class);
        start.ifPresent(name -> ids.setParameter("start", name));
        last.ifPresent(name -> ids.setParameter("last", name));
        return new Some(ids.getResultList(), last);
    }

    /** @param named the ids of what its rows name; none for all */
    private List<Key> keys(ListQuestion asked, @Nullable String after, int most, List<Long> named) {
        var list = asked.list();
        var conditions = Conditions.of(asked, company.today(), this::ids);
        if (!named.isEmpty()) {
            conditions.add("%s contains %s"
                    .formatted(
                            conditions.parameter(Many.ids(named)),
                            asked.sortedBy().orElseThrow().path()));
        }
        var sorted = asked.sortedBy();
        var by = sorted.map(Column::sortedBy).orElse(list.key());
        if (after != null) {
            behind(asked, conditions, by, Pages.key(after));
        }
        var sequence = new ArrayList<>(conditions.fixed());
        sequence.add(by);
        sequence.add(list.key());
        var way = asked.sorting().descending() ? " desc" : "";
        // what is named is there: the database may begin with what leads to it
        var leading = named.isEmpty() ? "" : asked.sortedBy().orElseThrow().path();
        var text = "select %s, %s from %s order by %s"
                .formatted(
                        list.key(),
                        by,
                        from(list, conditions, Stream.of(by), leading),
                        String.join(
                                ", ",
                                sequence.stream()
                                        .distinct()
                                        .map(path -> path + way)
                                        .toList()));
        return query(asked, text, conditions).setMaxResults(most).getResultList().stream()
                .map(row -> new Key((Long) row[0], String.valueOf(row[1])))
                .toList();
    }

    /** Goes on behind the last row of the page before. */
    private static void behind(ListQuestion asked, Conditions conditions, String by, Pages.Key last) {
        if (!last.text(0).equals(asked.sort())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("after", "a cursor from a page sorted alike"));
        }
        var than = asked.sorting().descending() ? "<" : ">";
        var key = asked.list().key();
        var id = conditions.parameter(last.number(2));
        if (asked.sortedBy().isEmpty()) {
            conditions.add("%s %s %s".formatted(key, than, id));
            return;
        }
        var column = asked.sortedBy().get();
        var value = conditions.parameter(
                switch (column.kind()) {
                    case TEXT, CODE -> last.text(1);
                    case CHOICE -> choice(column, last.text(1));
                    case FLAG, AS_OF -> throw new IllegalStateException("nothing is sorted by " + column.kind());
                    case DAY -> last.date(1);
                    case COUNT -> last.number(1);
                    case AMOUNT, QUANTITY -> last.figure(1);
                });
        conditions.add("%1$s %2$s= %3$s and (%1$s %2$s %3$s or %4$s %2$s %5$s)".formatted(by, than, value, key, id));
    }

    private static Object choice(Column column, String name) {
        if (!column.field().choices().contains(name)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("after", "a cursor from an earlier page"));
        }
        return Conditions.choice(column, name);
    }

    /** The rows of a page, in its sequence. */
    private List<Row> rows(ListQuestion asked, List<Key> keys) {
        if (keys.isEmpty()) {
            return List.of();
        }
        var list = asked.list();
        var opened = list.opened().map(Column::path).orElse("''");
        var same = list.opened().flatMap(Column::opens).orElse("");
        var kind = list.kind().orElse("'%s'".formatted(same));
        var read = Stream.concat(
                        Stream.of(opened, kind), asked.columns().stream().flatMap(column -> column.read().stream()))
                .toList();
        var conditions =
                Conditions.ofKeys(list, Many.ids(keys.stream().map(Key::id).toList()));
        var text = "select %s, %s from %s"
                .formatted(list.key(), String.join(", ", read), from(list, conditions, read.stream()));
        var found = new HashMap<Long, Row>();
        for (var row : query(asked, text, conditions).getResultList()) {
            found.put(
                    (Long) row[0],
                    new Row((Long) row[0], (String) row[1], row[2].toString(), cells(asked.columns(), row)));
        }
        return keys.stream().map(key -> found.get(key.id())).toList();
    }

    private Map<String, Object> cells(Collection<Column> columns, Object[] row) {
        var cells = new LinkedHashMap<String, Object>();
        var at = 3;
        for (var column : columns) {
            var value = row[at++];
            var name = column.named().isPresent() ? row[at++] : null;
            if (value != null) {
                cells.put(
                        column.name(),
                        column.named().isPresent() ? new Coded((String) value, (String) name) : shown(column, value));
            }
        }
        return cells;
    }

    private Object shown(Column column, Object value) {
        return column.kind() == FieldKind.AMOUNT && value != null
                ? company.money((BigDecimal) value).amount()
                : value;
    }

    /** What a column adds up to; nothing where there are no rows. */
    private BigDecimal sum(Column column, @Nullable Object answered) {
        return (BigDecimal) shown(column, figure(answered));
    }

    Totals totals(ListQuestion asked) {
        var proof = asked.list().proofToRead();
        var days = proof.flatMap(one -> asked.daysAlone(one.day(), company.today()));
        var ties = days.isEmpty()
                ? List.<Register.Tie>of()
                : proof.get().register().ties();
        var shown = asked.columns().stream()
                .filter(column -> column.traits().contains(Trait.SUMMED))
                .toList();
        var summed = Stream.concat(
                        shown.stream(),
                        ties.stream().map(tie -> asked.list().seen(tie.figure()).orElseThrow()))
                .distinct()
                .toList();
        var row = counted(asked, summed);
        var all = new LinkedHashMap<String, BigDecimal>();
        for (int at = 0; at < summed.size(); at++) {
            all.put(summed.get(at).name(), sum(summed.get(at), row[at + 1]));
        }
        var proven = days.map(some -> {
            var moved = books.moved(proof.get().register(), some.from(), some.to());
            return new Proven(
                    some,
                    ties.stream()
                            .map(tie -> tie.with(all.get(tie.figure()), moved))
                            .toList());
        });
        all.keySet().retainAll(shown.stream().map(Column::name).toList());
        asked.columns().stream()
                .filter(column -> column.measure()
                        .filter(measure -> measure != Measure.SUM)
                        .isPresent())
                .forEach(column -> tallied(asked, List.of(), Optional.of(column)).stream()
                        .map(Part::tally)
                        .reduce(Tally.NONE, Tally::plus)
                        .come(column.measure().get())
                        .ifPresent(measured -> all.put(column.name(), measured)));
        return new Totals((Long) row[0], all, proven);
    }

    /** How many rows there are, and the sums of columns behind it. */
    private Object[] counted(ListQuestion asked, List<Column> summed) {
        var list = asked.list();
        var conditions = Conditions.of(asked, company.today(), this::ids);
        var sums = summed.stream().map(column -> "sum(%s)".formatted(column.path()));
        var text = "select %s from %s"
                .formatted(
                        Stream.concat(Stream.of("count(%s)".formatted(list.key())), sums)
                                .collect(Collectors.joining(", ")),
                        from(list, conditions, summed.stream().map(Column::path)));
        return query(asked, text, conditions).getSingleResult();
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
        for (var row : tallied(asked, keys, grouping.of())) {
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
    private List<Part> tallied(ListQuestion asked, List<String> keys, Optional<Column> of) {
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
        var conditions = Conditions.of(asked, company.today(), this::ids);
        var text = "select %s from %s%s"
                .formatted(
                        String.join(", ", read),
                        from(asked.list(), conditions, read.stream()),
                        together.isEmpty() ? "" : " group by " + String.join(", ", together));
        return query(asked, text, conditions).getResultList().stream()
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

    /** The base of a list with what is joined for some paths and the conditions, and these. */
    private static String from(DeclaredList list, Conditions conditions, Stream<String> paths) {
        return from(list, conditions, paths, "");
    }

    /** @param leading a path of which it is known that it leads to something */
    private static String from(DeclaredList list, Conditions conditions, Stream<String> paths, String leading) {
        var aliases = Stream.concat(paths, conditions.texts().stream())
                .flatMap(path -> ALIAS.matcher(path).results().map(found -> found.group(1)))
                .distinct()
                .toList();
        var named = list.columns().stream()
                .filter(column -> column.named()
                        .map(Column.Named::alias)
                        .filter(aliases::contains)
                        .isPresent())
                .toList();
        var text = new StringBuilder(list.base());
        conditions.joins().forEach(join -> text.append(' ').append(join));
        list.joins().stream()
                .filter(join ->
                        aliases.contains(join.alias()) || named.stream().anyMatch(column -> join.isOf(column.path())))
                .forEach(join -> text.append(' ').append(join.isOf(leading) ? join.inner() : join.hql()));
        named.forEach(column -> text.append(" left join %s %s on %2$s.id = %s"
                .formatted(column.named().get().entity(), column.named().get().alias(), column.path())));
        if (!conditions.texts().isEmpty()) {
            text.append(" where (")
                    .append(String.join(") and (", conditions.texts()))
                    .append(')');
        }
        return text.toString();
    }

    private SelectionQuery<Object[]> query(ListQuestion asked, String text, Conditions conditions) {
        var query = session.createSelectionQuery(text, Object[].class);
        conditions.values().forEach(query::setParameter);
        var named = query.getParameterMetadata().getNamedParameterNames();
        if (named.contains("day")) {
            var today = company.today();
            RefusedException.where(Dating.ahead(asked.asOf(today), today));
            query.setParameter("day", asked.asOf(today));
        }
        if (named.contains("today")) {
            query.setParameter("today", company.today());
        }
        if (named.contains("decimals")) {
            query.setParameter("decimals", company.currency().getDefaultFractionDigits());
        }
        return query;
    }

    /** The ids of what codes name; a code that names nothing is refused. */
    private Long[] ids(Column column, List<String> codes) {
        return Many.ids(coded(column, codes).stream().map(Found::id).toList());
    }

    /** What a code names. */
    record Found(long id, String code, String name) {}

    /** What codes of a column name; a code that names nothing is refused. Looked up once for a question. */
    List<Found> coded(Column column, List<String> codes) {
        return coded.get(new Codes(column.named().orElseThrow().entity(), codes), asked -> {
            var found = session.createSelectionQuery(
                            "select x.id, x.code, x.name from %s x where :codes contains x.code"
                                    .formatted(asked.entity()),
                            Found.class)
                    .setParameter("codes", Many.names(codes))
                    .getResultList();
            codes.stream()
                    .filter(code -> found.stream().noneMatch(one -> one.code().equals(code)))
                    .findFirst()
                    .ifPresent(code -> {
                        throw new RefusedException(
                                new CommonRefusal.NotFound(column.field().words(), code));
                    });
            return found;
        });
    }
}
