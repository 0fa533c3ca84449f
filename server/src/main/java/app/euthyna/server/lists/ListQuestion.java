package app.euthyna.server.lists;

import app.euthyna.core.lists.DaySpan;
import app.euthyna.core.lists.Field;
import app.euthyna.core.lists.Filter;
import app.euthyna.core.lists.ListRefusal;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.lists.Column.Trait;
import app.euthyna.server.lists.DeclaredList.Sorting;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What is asked of a list, read and checked for whoever asks: rows that meet all filters, in a sequence, with some
 * columns.
 */
record ListQuestion(DeclaredList list, List<Filter> filters, Sorting sorting, List<Column> columns) {

    /**
     * Reads it as it is written in an address.
     *
     * @param sort a column, with a minus before it for the other way round; null for the list's own
     * @param columns names of columns in their sequence; null for those that are shown by themselves
     */
    static ListQuestion of(
            DeclaredList list, List<String> filters, @Nullable String sort, @Nullable List<String> columns) {
        var fields = list.seen().stream().map(Column::field).toList();
        var read = filters.stream().map(one -> filter(list, fields, one)).toList();
        if (read.stream().filter(Filter.AsOf.class::isInstance).count() > 1) {
            throw new RefusedException(CommonRefusal.Incomplete.of("filter", "one day that things are told as of"));
        }
        return new ListQuestion(
                list,
                read,
                sort == null || sort.isEmpty() ? list.sorting() : sorting(list, sort),
                columns == null || columns.isEmpty()
                        ? list.seen().stream()
                                .filter(column -> column.traits().contains(Trait.SHOWN))
                                .toList()
                        : columns.stream().map(name -> column(list, name)).toList());
    }

    private static Filter filter(DeclaredList list, List<Field> fields, String written) {
        var read = Filter.read(list.name(), fields, written);
        if (read.isRefused()) {
            throw new RefusedException(read.refusals());
        }
        return read.get();
    }

    private static Column column(DeclaredList list, String name) {
        return list.seen(name).orElseThrow(() -> new RefusedException(new ListRefusal.UnknownField(list.name(), name)));
    }

    private static Sorting sorting(DeclaredList list, String written) {
        var descending = written.startsWith("-");
        var column = column(list, descending ? written.substring(1) : written);
        if (!column.traits().contains(Trait.SORTED)) {
            throw new RefusedException(new ListRefusal.NotSortable(list.name(), column.name()));
        }
        return new Sorting(Optional.of(column.name()), descending);
    }

    /** By what it is sorted; empty where by the key alone. */
    Optional<Column> sortedBy() {
        return sorting.column().map(name -> column(list, name));
    }

    /** Of the days of a column those that its filters leave. */
    DaySpan.Days days(Column column, LocalDate today) {
        var days = DaySpan.Days.ALL;
        for (var filter : filters) {
            if (filter.field().equals(column.field()) && filter instanceof Filter.InSpan span) {
                days = days.and(span.span().on(today));
            } else if (filter.field().equals(column.field()) && filter instanceof Filter.Days some) {
                days = days.and(some.days());
            }
        }
        return days;
    }

    /** Its days, where nothing else than days of one column is asked for; else empty. */
    Optional<DaySpan.Days> daysAlone(String column, LocalDate today) {
        var days = DaySpan.Days.ALL;
        for (var filter : filters) {
            if (!filter.field().name().equals(column)) {
                return Optional.empty();
            } else if (filter instanceof Filter.InSpan span) {
                days = days.and(span.span().on(today));
            } else if (filter instanceof Filter.Days some) {
                days = days.and(some.days());
            } else if (filter instanceof Filter.AsOf) {
                // nothing is left out by it
                days = days.and(new DaySpan.Days(Optional.empty(), Optional.of(asOf(today))));
            } else {
                return Optional.empty();
            }
        }
        return Optional.of(days);
    }

    /** The day at whose end everything is told as it stood: today unless another is asked for. */
    LocalDate asOf(LocalDate today) {
        return filters.stream()
                .filter(Filter.AsOf.class::isInstance)
                .map(filter -> ((Filter.AsOf) filter).day(today))
                .min(Comparator.naturalOrder())
                .orElse(today);
    }

    /** Whether rows are those of the list's own table as they are now, none of which something else leads to. */
    boolean isPlain(LocalDate today) {
        return asOf(today).equals(today)
                && list.within()
                        .filter(within -> !within.today().join().isEmpty())
                        .isEmpty();
    }

    /** As it is written in an address. */
    String sort() {
        return sorting.column()
                .map(name -> (sorting.descending() ? "-" : "") + name)
                .orElse("");
    }
}
