package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Filter;
import app.euthyna.server.lists.KeyReader.Wanted;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Finds the rows of a page, however long the list is. Few rows are found through what leads to them, and sorted. Many
 * are met soon in the sequence that is asked for: rows are looked at one after the other, up to so many; then the page
 * says how far it has come. Rows that are worked out have no index by their id: they are read whole.
 */
@Component
class RowFinder {

    private final Questions questions;
    private final KeyReader keys;
    private final Indexes indexes;
    private final Turns turns;
    private final Bounds bounds;
    private final Company company;

    RowFinder(Questions questions, KeyReader keys, Indexes indexes, Turns turns, Bounds bounds, Company company) {
        this.questions = questions;
        this.keys = keys;
        this.indexes = indexes;
        this.turns = turns;
        this.bounds = bounds;
        this.company = company;
    }

    /**
     * Rows that were found.
     *
     * @param until the last row that was looked at, where there may be more behind it; empty where so many were found
     *     as were wanted, or all that there are
     * @param looked how many were looked at, where there may be more
     */
    record Looked(List<KeyReader.Key> rows, Optional<KeyReader.Key> until, int looked) {
        static Looked all(List<KeyReader.Key> rows) {
            return new Looked(rows, Optional.empty(), 0);
        }
    }

    /** The first rows behind another one. */
    Looked find(ListQuestion asked, List<String> read, @Nullable String after, int most) {
        var wanted = new Wanted(asked, read, after, most);
        var sorted = asked.sortedBy();
        if (asked.list().isDerived()) {
            // a register is read by day; months are few
            return sorted.filter(column -> column.kind() == FieldKind.DAY)
                    .filter(column -> asked.list().proof().isPresent())
                    .map(day -> turns.byDay(wanted, day))
                    .orElseGet(() -> Looked.all(keys.read(wanted, questions.conditions(asked))));
        }
        var few = through(wanted);
        if (few.isPresent()) {
            return few.get();
        }
        var named = sorted.filter(column -> column.named().isPresent())
                .filter(column -> asked.filters().stream()
                        .noneMatch(filter -> filter.field().equals(column.field())));
        if (named.isPresent()) {
            return turns.byName(wanted, named.get());
        }
        return isLookedAt(asked, wanted.by())
                ? looking(wanted)
                : Looked.all(keys.read(wanted, questions.conditions(asked)));
    }

    /** By the filter that leads to few rows, whatever the others leave of them. */
    private Optional<Looked> through(Wanted wanted) {
        var asked = wanted.asked();
        return ways(asked)
                .flatMap(way -> keys.led(asked, way.leading(), way.conditions(), bounds.few()).stream())
                .findFirst()
                .map(few -> Looked.all(
                        keys.sorted(wanted, questions.looking(asked, "", true).and(few))));
    }

    /** By the filter on their own table that leads to no more rows than are looked at: the database sorts them. */
    private Optional<Looked> throughMany(Wanted wanted) {
        var asked = wanted.asked();
        return ways(asked)
                .filter(way -> way.leading().steps().isEmpty() && !way.path().isEmpty())
                .filter(way -> keys.led(asked, way.leading(), way.conditions(), bounds.most())
                        .isPresent())
                .findFirst()
                .map(way -> Looked.all(keys.sorted(wanted, questions.looking(asked, way.path(), true))));
    }

    /** @param path by which the filter is; empty for what another table leads to */
    private record By(Indexes.Leading leading, String path, Conditions conditions) {}

    private Stream<By> ways(ListQuestion asked) {
        return asked.isPlain(company.today())
                ? asked.filters().stream().flatMap(filter -> way(asked, filter).stream())
                : Stream.of();
    }

    private Optional<By> way(ListQuestion asked, Filter filter) {
        var list = asked.list();
        var path = path(list, filter);
        var leading = path.isEmpty()
                ? Optional.of(new Indexes.Leading(list.base(), list.key(), List.of()))
                : path.flatMap(one -> indexes.leading(list, one));
        return isLeading(list, filter)
                ? leading.map(one -> new By(one, path.orElse(""), questions.conditions(list, filter)))
                : Optional.empty();
    }

    /** By which a filter is, where an index may lead to what it leaves; empty of what another table leads to. */
    private static Optional<String> path(DeclaredList list, Filter filter) {
        var column = list.seen(filter.field().name()).orElseThrow();
        return filter instanceof Filter.Lettered
                ? column.folding().map(Column.Folding::path)
                : Optional.of(column.path()).filter(path -> column.kind() != FieldKind.FLAG);
    }

    private static boolean isLeading(DeclaredList list, Filter filter) {
        var column = list.seen(filter.field().name()).orElseThrow();
        if (filter instanceof Filter.Lettered lettered) {
            return lettered.operator() != Filter.Operator.HAS;
        }
        if (filter instanceof Filter.Among among) {
            return column.kind() == FieldKind.FLAG
                    ? column.through().isPresent() && among.values().equals(List.of(Column.YES))
                    : !among.not();
        }
        return !(filter instanceof Filter.AsOf);
    }

    /** Whether rows are looked at one after the other: where there is an index to do so, and something to look for. */
    private boolean isLookedAt(ListQuestion asked, String by) {
        return asked.isPlain(company.today())
                && (asked.list().within().isPresent() || !asked.filters().isEmpty())
                && indexes.isOwn(asked.list(), by);
    }

    /** So many rows are looked at first; each time four times as many. */
    private Looked looking(Wanted wanted) {
        var found = new ArrayList<KeyReader.Key>();
        var part = wanted;
        var most = bounds.of(questions.looking(wanted.asked(), "", true));
        for (int looked = 0, count = bounds.few(); ; count *= 4) {
            var some = Math.min(count, most - looked);
            var last = keys.last(part.most(some), questions.looking(part.asked(), part.by(), false));
            var conditions = questions.looking(part.asked(), part.by(), true);
            last.ifPresent(key -> KeyReader.upTo(wanted, conditions, key));
            found.addAll(keys.read(part.most(wanted.most() - found.size()), conditions));
            looked += some;
            if (found.size() >= wanted.most() || last.isEmpty()) {
                return Looked.all(found);
            }
            if (looked >= most) {
                return throughMany(wanted).orElseGet(() -> new Looked(found, last, most));
            }
            part = new Wanted(
                    wanted.asked(),
                    wanted.read(),
                    Pages.cursor(KeyReader.cursor(wanted.asked(), last.get())),
                    wanted.most());
        }
    }
}
