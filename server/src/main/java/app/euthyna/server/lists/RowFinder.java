package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.Filter;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.KeyReader.Looked;
import app.euthyna.server.lists.KeyReader.Wanted;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import jakarta.annotation.Nullable;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Finds the rows of a page, however long the list is. Few rows are found through what leads to them, and sorted. Many
 * are met soon in the sequence that is asked for: rows are looked at one after the other, up to so many; then the page
 * says how far it has come. Rows that are worked out have no index by their id: they are read whole.
 */
@Component
class RowFinder {

    /** So many times as many rows as are looked at are sorted where an index of their own leads to them. */
    private static final int SORTED = 4;

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

    /** The first rows behind another one for a page; so few are looked at that it is there at once. */
    Looked page(ListQuestion asked, List<String> read, @Nullable String after, int most) {
        return find(new Wanted(asked, read, after, most, bounds.page()));
    }

    /** The first rows behind another one. */
    Looked find(ListQuestion asked, List<String> read, @Nullable String after, int most) {
        return find(new Wanted(asked, read, after, most, bounds.most()));
    }

    private Looked find(Wanted wanted) {
        var asked = wanted.asked();
        var sorted = asked.sortedBy();
        if (asked.list().isDerived()) {
            return led(wanted)
                    .or(() -> owned(wanted))
                    // a register is read by day; months are few
                    .or(() -> sorted.filter(column -> column.kind() == FieldKind.DAY)
                            .filter(column -> asked.list()
                                    .proof()
                                    .filter(proof -> !proof.register().isBalance())
                                    .isPresent())
                            .map(day -> turns.byDay(wanted, day)))
                    .orElseGet(() -> Looked.all(keys.read(wanted, questions.conditions(asked))));
        }
        var few = through(wanted);
        if (few.isPresent()) {
            return few.get();
        }
        var alike = asked.isPlain(company.today())
                ? asked.list().within().flatMap(DeclaredList.Within::by)
                : Optional.<String>empty();
        if (alike.isPresent()) {
            if (indexes.isOwn(asked.list(), alike.get(), wanted.by())) {
                return looking(wanted);
            }
            if (keys.areFew(asked, questions.conditions(asked.list()), bounds.brief())) {
                return Looked.all(keys.read(wanted, questions.conditions(asked)));
            }
        }
        var named = sorted.filter(column -> column.named().isPresent())
                .filter(column -> asked.filters().stream()
                        .noneMatch(filter -> filter.field().equals(column.field())));
        if (named.isPresent()) {
            return turns.byName(wanted, named.get());
        }
        if (isLookedAt(asked, wanted.by())) {
            return looking(wanted);
        }
        return isAmong(asked) ? among(wanted) : Looked.all(keys.read(wanted, questions.conditions(asked)));
    }

    /** Whether rows are of a day gone by, and known to be among some others. */
    private boolean isAmong(ListQuestion asked) {
        return !asked.isPlain(company.today())
                && asked.list()
                        .within()
                        .filter(within -> !within.among().isEmpty())
                        .isPresent()
                && keys.areFew(asked, questions.among(asked), bounds.keys());
    }

    /** Rows of a day gone by: those that they are among are sorted, and looked at some at a time. */
    private Looked among(Wanted wanted) {
        var asked = wanted.asked();
        var found = new ArrayList<KeyReader.Key>();
        // as many as a page has are mostly one
        var part = wanted.most(Math.min(wanted.most(), KeyReader.TOGETHER));
        for (int looked = 0; ; looked += part.most()) {
            var some = keys.read(part.alone(), questions.among(asked));
            var ids = Many.ids(some.stream().map(KeyReader.Key::id).toList());
            found.addAll(keys.read(
                    wanted.most(wanted.most() - found.size()),
                    questions.conditions(asked).and(ids)));
            if (found.size() >= wanted.most() || ids.length < part.most()) {
                return Looked.all(found);
            }
            var last = some.get(ids.length - 1);
            if (looked >= wanted.looked()) {
                return new Looked(found, Optional.of(last), looked);
            }
            part = part.behind(last);
        }
    }

    /** Of rows that are worked out those few that a filter by what they are made of leads to: they are sorted. */
    private Optional<Looked> led(Wanted wanted) {
        var asked = wanted.asked();
        var list = asked.list();
        return asked.filters().stream().anyMatch(filter -> {
                    var column = list.seen(filter.field().name()).orElseThrow();
                    return column.traits().contains(Trait.LEADING)
                            && isLeading(column, filter)
                            && keys.areFew(asked, questions.conditions(list, filter), bounds.few());
                })
                ? Optional.of(Looked.all(keys.sorted(wanted, questions.conditions(asked))))
                : Optional.empty();
    }

    /**
     * Of rows that are worked out one by one those that what is kept of them leads to; else those few that a filter by
     * what they are about does; else in the sequence of its names.
     */
    private Optional<Looked> owned(Wanted wanted) {
        var asked = wanted.asked();
        return asked.list()
                .owner()
                .flatMap(owner -> kept(asked)
                        .map(some -> of(some, asked))
                        .filter(some ->
                                isKept(some.list(), asked.sorting().column().orElse("")))
                        .filter(some -> !some.filters().isEmpty()
                                || !asked.sortedBy().orElseThrow().field().equals(owner.field()))
                        .map(some -> kept(wanted, some))
                        .or(() -> asked.filters().stream()
                                .flatMap(filter -> owners(asked, owner, filter).stream())
                                .findFirst()
                                .map(few -> Looked.all(keys.sorted(
                                        wanted, questions.conditions(asked).those(few)))))
                        .or(() -> asked.sortedBy()
                                .filter(column -> column.field().equals(owner.field()))
                                .map(column -> turns.byOwner(wanted, column))));
    }

    /** What is asked of rows, as far as it can be asked of what is kept of them. */
    private static ListQuestion of(DeclaredList kept, ListQuestion asked) {
        var filters = asked.filters().stream()
                .filter(filter -> isKept(kept, filter.field().name()))
                .toList();
        return new ListQuestion(kept, filters, asked.sorting(), List.of());
    }

    /** The list of what is kept of rows that are worked out, where they are asked for as they are today. */
    private Optional<DeclaredList> kept(ListQuestion asked) {
        return asked.asOf(company.today()).equals(company.today())
                ? asked.list().kept()
                : Optional.empty();
    }

    private static boolean isKept(DeclaredList kept, String column) {
        return kept.seen(column).isPresent();
    }

    /** In the sequence of what is kept: those that meet the filters by it are worked out, some at a time. */
    private Looked kept(Wanted wanted, ListQuestion kept) {
        var asked = wanted.asked();
        var isAll = kept.filters().size() == asked.filters().size();
        var most = Bounds.naming(wanted.looked());
        var part = new Wanted(
                kept, List.of(), wanted.after(), isAll ? wanted.most() : Math.min(Turns.OWNERS, most), wanted.looked());
        var found = new ArrayList<KeyReader.Key>();
        for (int looked = 0; ; part = part.most(Math.min(part.most() * 4, most))) {
            var next = find(part);
            var ids = Many.ids(next.rows().stream().map(KeyReader.Key::id).toList());
            found.addAll(keys.read(
                    wanted.most(wanted.most() - found.size()),
                    questions.conditions(asked).those(ids)));
            looked += ids.length;
            if (found.size() >= wanted.most()) {
                return Looked.all(found);
            }
            if (next.until().isPresent()) {
                return new Looked(found, next.until(), looked + next.looked());
            }
            if (ids.length < part.most()) {
                return Looked.all(found);
            }
            var last = next.rows().get(ids.length - 1);
            if (looked >= most) {
                return new Looked(found, Optional.of(last), looked);
            }
            part = part.behind(last);
        }
    }

    /** What a filter leaves of what rows are about, where it is by that and leaves few. */
    private Optional<Long[]> owners(ListQuestion asked, Column owner, Filter filter) {
        var list = asked.list();
        var column = list.seen(filter.field().name()).orElseThrow();
        var named = owner.named().orElseThrow();
        if (!isLeading(column, filter)) {
            return Optional.empty();
        }
        if (column.field().equals(owner.field())) {
            return Optional.of(questions.ids(column, ((Filter.Among) filter).values()));
        }
        if (!column.path().startsWith(named.alias() + ".")) {
            return Optional.empty();
        }
        var from = "%s %s".formatted(named.entity(), named.alias());
        var way = new Indexes.Leading(from, named.alias() + ".id", List.of());
        return keys.led(asked, way, questions.conditions(list, filter), bounds.few());
    }

    /** By the filter that leads to few rows, whatever the others leave of them. */
    private Optional<Looked> through(Wanted wanted) {
        var asked = wanted.asked();
        return ways(asked)
                .flatMap(way -> isOwn(way)
                        ? own(asked, way, bounds.page()).stream()
                        : few(asked, way).stream()
                                .map(few -> questions.led(asked, "").and(few)))
                .findFirst()
                .map(conditions -> Looked.all(keys.sorted(wanted, conditions)));
    }

    /** The keys of the rows that a filter leads to from another table, where they are few. */
    private Optional<Long[]> few(ListQuestion asked, By way) {
        return way.through().stream().allMatch(part -> keys.mayBeFew(asked, part, bounds.few()))
                ? keys.led(asked, way.leading(), way.conditions(), bounds.few())
                : Optional.empty();
    }

    /** By the filter on their own table that leads to some rows: the database sorts them. */
    private Optional<Looked> throughMany(Wanted wanted) {
        var asked = wanted.asked();
        return ways(asked)
                .filter(RowFinder::isOwn)
                .flatMap(way -> own(asked, way, Math.min(bounds.most(), wanted.looked() * SORTED)).stream())
                .findFirst()
                .map(conditions -> Looked.all(keys.sorted(wanted, conditions)));
    }

    /** Through the index of their own table by which a filter is, where it leads to no more than so many. */
    private Optional<Conditions> own(ListQuestion asked, By way, int most) {
        return keys.areFew(asked, way.conditions(), most)
                ? Optional.of(questions.led(asked, way.path()))
                : Optional.empty();
    }

    /**
     * @param path by which the filter is; empty for what another table leads to
     * @param through that table, where a flag names it
     */
    private record By(
            Indexes.Leading leading, String path, Conditions conditions, Optional<DeclaredList.Part> through) {}

    /** Whether the path is of their own table: then there is no need to name the rows by their keys. */
    private static boolean isOwn(By way) {
        return way.leading().steps().isEmpty() && !way.path().isEmpty();
    }

    private Stream<By> ways(ListQuestion asked) {
        return asked.isPlain(company.today())
                ? asked.filters().stream().flatMap(filter -> way(asked, filter).stream())
                : Stream.of();
    }

    private Optional<By> way(ListQuestion asked, Filter filter) {
        var list = asked.list();
        var column = list.seen(filter.field().name()).orElseThrow();
        if (!isLeading(column, filter)) {
            return Optional.empty();
        }
        if (column.kind() == FieldKind.FLAG) {
            var own = new Indexes.Leading(list.base(), list.key(), List.of());
            return Optional.of(new By(own, "", questions.conditions(list, filter), column.through()));
        }
        var path = column.folding().map(Column.Folding::path).orElse(column.path());
        return indexes.leading(list, path)
                .map(leading -> new By(leading, path, questions.conditions(list, filter), Optional.empty()));
    }

    /** Whether an index, or another table, may lead to what a filter leaves. */
    private static boolean isLeading(Column column, Filter filter) {
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
                && (asked.list().within().isPresent()
                        || asked.list().ownRows().isPresent()
                        || !asked.filters().isEmpty())
                && indexes.isOwn(asked.list(), by);
    }

    /** Rows are looked at one after the other, some at first; each time four times as many. */
    private Looked looking(Wanted wanted) {
        var asked = wanted.asked();
        var by = wanted.by();
        var found = new ArrayList<KeyReader.Key>();
        var part = wanted;
        var most = Bounds.of(questions.led(asked, ""), wanted.looked());
        for (int looked = 0, count = bounds.few(); ; count *= 4) {
            var some = Math.min(count, most - looked);
            var last = keys.last(part, questions.looking(asked, by, false), some);
            var least = part.most(wanted.most() - found.size());
            Supplier<Conditions> conditions = () -> questions.looking(asked, by, true);
            found.addAll(last.map(key -> keys.upTo(least, conditions, key))
                    .orElseGet(() -> keys.read(least, conditions.get())));
            looked += some;
            if (found.size() >= wanted.most() || last.isEmpty()) {
                return Looked.all(found);
            }
            if (looked >= most) {
                return throughMany(wanted).orElseGet(() -> new Looked(found, last, most));
            }
            part = wanted.behind(last.get());
        }
    }
}
