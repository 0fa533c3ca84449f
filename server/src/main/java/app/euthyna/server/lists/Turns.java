package app.euthyna.server.lists;

import app.euthyna.core.lists.DaySpan;
import app.euthyna.server.lists.KeyReader.Looked;
import app.euthyna.server.lists.KeyReader.Wanted;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Finds rows in turns: those of some days, or of some names, then those of the next. */
@Component
class Turns {

    private final Questions questions;
    private final KeyReader keys;
    private final Indexes indexes;
    private final Bounds bounds;
    private final Company company;
    private final Books books;

    Turns(Questions questions, KeyReader keys, Indexes indexes, Bounds bounds, Company company, Books books) {
        this.questions = questions;
        this.keys = keys;
        this.indexes = indexes;
        this.bounds = bounds;
        this.company = company;
        this.books = books;
    }

    /** So many days are asked for at once. */
    private static final int DAYS = 64;

    /** And so many times as many are gone through as before. */
    private static final int MORE = 4;

    private static final LocalDate EVER = LocalDate.of(1, 1, 1);

    /**
     * Rows that are worked out, in the sequence of a day: days are gone through, some at a time, since what they are
     * worked out from has an index by it and the whole would be sorted. No row is of a day to come. The ledger tells on
     * which days there are any; those between go with the next.
     */
    Looked byDay(Wanted wanted, Column column) {
        var today = company.today();
        var asked = wanted.asked();
        var by = wanted.by();
        var down = wanted.isDown();
        var register = asked.list().proof().orElseThrow().register();
        var all = asked.days(column, today).and(new DaySpan.Days(Optional.of(EVER), Optional.of(today)));
        var first = all.from().orElseThrow();
        var last = all.to().orElseThrow();
        if (wanted.after() != null) {
            var day = Pages.key(wanted.after()).date(1);
            first = down || day.isBefore(first) ? first : day;
            last = down && day.isBefore(last) ? day : last;
        }
        var most = Bounds.worked(Bounds.of(questions.conditions(asked), wanted.looked()));
        var found = new ArrayList<KeyReader.Key>();
        var posted = List.<LocalDate>of();
        var looked = 0L;
        for (int at = 0, count = 1; found.size() < wanted.most() && !first.isAfter(last); ) {
            if (at == posted.size()) {
                posted = books.days(register, first, last, down, DAYS);
                at = 0;
            }
            at = Math.min(at + count, posted.size());
            var isLast = at == posted.size() && at < DAYS;
            var end = isLast ? (down ? first : last) : posted.get(at - 1);
            var some = new DaySpan.Days(Optional.of(down ? end : first), Optional.of(down ? last : end));
            var had = found.size();
            found.addAll(keys.read(
                    wanted.most(wanted.most() - had),
                    questions.conditions(asked).between(by, some)));
            first = down ? first : end.plusDays(1);
            last = down ? end.minusDays(1) : last;
            if (found.size() >= wanted.most() || first.isAfter(last)) {
                break;
            }
            var rows = asked.filters().isEmpty()
                    ? found.size() - had
                    : keys.count(asked, Conditions.none(asked.list()).between(by, some));
            looked += rows;
            if (looked >= most) {
                return new Looked(found, Optional.of(end(wanted, end.toString())), (int) looked);
            }
            // as many as the rows that may still be looked at fill, as far as can be told
            count = (int) Math.max(1, Math.min(count * (long) MORE, (most - looked) * count / Math.max(1, rows)));
        }
        return Looked.all(found);
    }

    /** So many names are gone through at first; each time four times as many. */
    private static final int NAMES = 4;

    /** And so many where rows are worked out one by one: nearly each name has one. */
    static final int OWNERS = 64;

    /**
     * Where to go on among names.
     *
     * @param begun whether the name itself is meant too
     */
    private record Start(Optional<String> name, boolean begun) {
        static Start of(Wanted wanted) {
            var name = Optional.ofNullable(wanted.after())
                    .map(cursor -> Pages.key(cursor).text(1));
            // where all that is sorted alike was looked at, the next name is
            var isAtEnd = name.map(last -> end(wanted, last)
                            .equals(KeyReader.Key.of(
                                    last, Pages.key(wanted.after()).number(2))))
                    .orElse(true);
            return new Start(name, !isAtEnd);
        }
    }

    private Questions.Some named(Wanted wanted, Column column, Start start, int count) {
        return questions.named(wanted.asked(), column, start.name(), start.begun(), count);
    }

    /**
     * Rows in the sequence of what they name: its names are gone through, and the rows of some looked at together,
     * since rows have an index by what they name, and none by its name.
     */
    Looked byName(Wanted wanted, Column column) {
        var asked = wanted.asked();
        if (!asked.isPlain(company.today()) || isShort(asked)) {
            return Looked.all(keys.sorted(wanted, questions.conditions(asked)));
        }
        var way = indexes.leading(asked.list(), column.path());
        var found = new ArrayList<KeyReader.Key>();
        var start = Start.of(wanted);
        var most = Bounds.naming(wanted.looked());
        // that many had too many rows
        var tooMany = Integer.MAX_VALUE;
        for (int looked = 0, count = NAMES; ; ) {
            var some = named(wanted, column, start, count);
            var part = wanted.most(wanted.most() - found.size());
            var named = Many.ids(some.ids());
            var few = way.flatMap(one ->
                    keys.led(asked, one, Conditions.none(asked.list()).among(column.path(), named), bounds.few()));
            if (few.isPresent()) {
                found.addAll(keys.sorted(part, questions.led(asked, "").and(few.get())));
            } else if (way.isPresent() && count > 1) {
                tooMany = count;
                count = Math.max(1, count / NAMES);
                continue;
            } else {
                found.addAll(keys.read(part, questions.conditions(asked).among(column.path(), named)));
            }
            if (found.size() >= wanted.most() || some.last().isEmpty()) {
                return Looked.all(found);
            }
            looked += few.map(all -> all.length).orElse(way.isPresent() ? bounds.few() : 0);
            if (looked >= most) {
                return new Looked(found, Optional.of(end(wanted, some.last().get())), looked);
            }
            count = few.isPresent() && (few.get().length * 4 > most || count * 4 >= tooMany) ? count : count * 4;
            start = new Start(some.last(), false);
        }
    }

    /** Rows that are worked out one by one, in the sequence of the names of what they are about. */
    Looked byOwner(Wanted wanted, Column owner) {
        var asked = wanted.asked();
        var found = new ArrayList<KeyReader.Key>();
        var start = Start.of(wanted);
        var most = Bounds.naming(wanted.looked());
        for (int looked = 0, count = Math.min(OWNERS, most); ; count = Math.min(count * 4, most)) {
            var some = named(wanted, owner, start, count);
            found.addAll(keys.read(
                    wanted.most(wanted.most() - found.size()),
                    questions.conditions(asked).those(Many.ids(some.ids()))));
            looked += some.ids().size();
            if (found.size() >= wanted.most() || some.last().isEmpty()) {
                return Looked.all(found);
            }
            if (looked >= most) {
                return new Looked(found, Optional.of(end(wanted, some.last().get())), looked);
            }
            start = new Start(some.last(), false);
        }
    }

    /** Whether all rows of a list, whatever is asked of it, are so few that they are sorted rather than looked for. */
    private boolean isShort(ListQuestion asked) {
        return keys.areFew(asked, Conditions.none(asked.list()), bounds.brief());
    }

    /** Behind all that is sorted alike. */
    private static KeyReader.Key end(Wanted wanted, String sorted) {
        return KeyReader.Key.of(sorted, wanted.isDown() ? Long.MIN_VALUE : Long.MAX_VALUE);
    }
}
