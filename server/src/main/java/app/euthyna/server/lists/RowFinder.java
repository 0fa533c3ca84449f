package app.euthyna.server.lists;

import app.euthyna.core.lists.DaySpan;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Finds the rows of a page: by their ids over as few tables as the filters and the sorting need, since what is joined
 * for their columns is read afterwards, and costs the same however long the list is. Rows that are worked out have no
 * index by their id: they are read whole.
 */
@Component
class RowFinder {

    private final StatelessSession session;
    private final Questions questions;
    private final Company company;
    private final Books books;

    RowFinder(StatelessSession session, Questions questions, Company company, Books books) {
        this.session = session;
        this.questions = questions;
        this.company = company;
        this.books = books;
    }

    /**
     * A row that was found.
     *
     * @param sorted what it is sorted by
     * @param read what was read of it at once; empty where it is read afterwards
     */
    record Key(long id, String sorted, List<Object> read) {}

    /** The same for the last row of a page. */
    static List<String> cursor(ListQuestion asked, Key last) {
        return List.of(asked.sort(), last.sorted(), String.valueOf(last.id()));
    }

    /**
     * Which rows are looked for.
     *
     * @param read what is read of each at once, see {@link Key#read}
     * @param after behind which row; null from the beginning
     */
    private record Wanted(
            ListQuestion asked, List<String> read, @Nullable String after) {}

    /** The first rows behind another one. */
    List<Key> keys(ListQuestion asked, List<String> read, @Nullable String after, int most) {
        var wanted = new Wanted(asked, read, after);
        var sorted = asked.sortedBy();
        if (sorted.filter(column -> column.kind() == FieldKind.DAY).isPresent()
                && asked.list().isDerived()) {
            return byDay(wanted, sorted.get(), most);
        }
        var named = sorted.filter(column -> column.named().isPresent())
                .filter(column -> asked.filters().stream()
                        .noneMatch(filter -> filter.field().equals(column.field())));
        return named.isPresent() ? byName(wanted, named.get(), most) : keys(wanted, most, List.of(), DaySpan.Days.ALL);
    }

    /** So many days are gone through at first; each time four times as many. */
    private static final int DAYS = 1;

    /**
     * Rows that are worked out, in the sequence of a day: days are gone through, some at a time, since what they are
     * worked out from has an index by it and the whole would be sorted. No row is of a day to come.
     */
    private List<Key> byDay(Wanted wanted, Column column, int most) {
        var today = company.today();
        var asked = wanted.asked();
        var down = asked.sorting().descending();
        var all = asked.days(column, today).and(new DaySpan.Days(Optional.of(began(today)), Optional.of(today)));
        var first = all.from().orElseThrow();
        var last = all.to().orElseThrow();
        if (wanted.after() != null) {
            var day = Pages.key(wanted.after()).date(1);
            first = down || day.isBefore(first) ? first : day;
            last = down && day.isBefore(last) ? day : last;
        }
        var found = new ArrayList<Key>();
        for (var count = DAYS; found.size() < most && !first.isAfter(last); count *= 4) {
            var end = down ? last.minusDays(count - 1L) : first.plusDays(count - 1L);
            var some = down
                    ? new DaySpan.Days(Optional.of(end.isBefore(first) ? first : end), Optional.of(last))
                    : new DaySpan.Days(Optional.of(first), Optional.of(end.isAfter(last) ? last : end));
            found.addAll(keys(wanted, most - found.size(), List.of(), some));
            last = down ? some.from().orElseThrow().minusDays(1) : last;
            first = down ? first : some.to().orElseThrow().plusDays(1);
        }
        return found;
    }

    /** The month in which the books begin: a row may be of a whole one. */
    private LocalDate began(LocalDate today) {
        return books.began().orElse(today).withDayOfMonth(1);
    }

    /** So many names are gone through at first; each time four times as many. */
    private static final int NAMES = 8;

    /**
     * Rows in the sequence of what they name: its names are gone through, and the rows of some looked for together,
     * since rows have an index by what they name, and none by its name.
     */
    private List<Key> byName(Wanted wanted, Column column, int most) {
        var found = new ArrayList<Key>();
        var start = Optional.ofNullable(wanted.after())
                .map(cursor -> Pages.key(cursor).text(1));
        var isBegun = start.isPresent();
        for (int count = NAMES; ; count *= 4) {
            var some = someNamed(wanted.asked(), column, start, isBegun, count);
            if (!some.ids().isEmpty()) {
                found.addAll(keys(wanted, most - found.size(), some.ids(), DaySpan.Days.ALL));
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

    /**
     * The first of some rows.
     *
     * @param named the ids of what they name; none for all
     * @param days on which they are
     */
    private List<Key> keys(Wanted wanted, int most, List<Long> named, DaySpan.Days days) {
        var asked = wanted.asked();
        var list = asked.list();
        var conditions = questions.conditions(asked);
        if (!named.isEmpty()) {
            conditions.add("%s contains %s"
                    .formatted(
                            conditions.parameter(Many.ids(named)),
                            asked.sortedBy().orElseThrow().path()));
        }
        var sorted = asked.sortedBy();
        var by = sorted.map(Column::sortedBy).orElse(list.key());
        days.from().ifPresent(from -> conditions.add("%s >= %s".formatted(by, conditions.parameter(from))));
        days.to().ifPresent(to -> conditions.add("%s <= %s".formatted(by, conditions.parameter(to))));
        if (wanted.after() != null) {
            behind(asked, conditions, by, Pages.key(wanted.after()));
        }
        var sequence = new ArrayList<>(conditions.fixed());
        sequence.add(by);
        sequence.add(list.key());
        var way = asked.sorting().descending() ? " desc" : "";
        // what is named is there: the database may begin with what leads to it
        var leading = named.isEmpty() ? "" : asked.sortedBy().orElseThrow().path();
        var read =
                Stream.concat(Stream.of(list.key(), by), wanted.read().stream()).toList();
        var text = "select %s from %s order by %s"
                .formatted(
                        String.join(", ", read),
                        Questions.from(list, conditions, read.stream(), leading),
                        String.join(
                                ", ",
                                sequence.stream()
                                        .distinct()
                                        .map(path -> path + way)
                                        .toList()));
        return questions.query(asked, text, conditions).setMaxResults(most).getResultList().stream()
                .map(row -> new Key(
                        (Long) row[0],
                        String.valueOf(row[1]),
                        Arrays.asList(row).subList(2, row.length)))
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
}
