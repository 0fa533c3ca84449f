package app.euthyna.server.lists;

import app.euthyna.core.lists.DayStep;
import app.euthyna.core.lists.FieldKind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** The rows of a list put together for a chart: how many there are of each, and what they add up to. */
@Component
class Groups {

    /** So many days, weeks or months stand for themselves, the latest; those before are one. */
    private static final int MOST_SPANS = 62;

    /** So many of all else, the largest; the rest is one. */
    private static final int MOST = 20;

    private final ListReader reader;

    Groups(ListReader reader) {
        this.reader = reader;
    }

    /**
     * One group.
     *
     * @param filter that leaves its rows alone; empty for what has no value, and for the rest
     * @param sum of the measure; the count where that is it
     */
    record Group(String words, String filter, long count, BigDecimal sum) {}

    /** Days in their sequence, all else by what it adds up to. */
    List<Group> of(ListQuestion asked, Grouping grouping) {
        var found = reader.grouped(asked, grouping);
        return grouping.step().isPresent()
                ? days(grouping.by(), grouping.step().get(), found)
                : values(grouping.by(), found);
    }

    private static List<Group> days(Column column, DayStep step, List<ListReader.Grouped> found) {
        var spans = new TreeMap<LocalDate, Group>();
        var none = new ArrayList<Group>();
        for (var one : found) {
            if (one.value() == null) {
                none.add(new Group("none", "", one.count(), one.sum()));
                continue;
            }
            var first = step.around((LocalDate) one.value()).from().orElseThrow();
            spans.merge(first, span(column, step, first, one.count(), one.sum()), Groups::together);
        }
        if (!spans.isEmpty()) {
            // a day on which nothing was is a day too
            var next = spans.lastKey();
            for (int at = 0; at < MOST_SPANS && next.isAfter(spans.firstKey()); at++) {
                spans.computeIfAbsent(next, first -> span(column, step, first, 0, BigDecimal.ZERO));
                next = step.around(next.minusDays(1)).from().orElseThrow();
            }
        }
        var all = List.copyOf(spans.values());
        var early = all.subList(0, Math.max(0, all.size() - MOST_SPANS));
        return Stream.of(rest("earlier", early), all.subList(early.size(), all.size()), none)
                .flatMap(List::stream)
                .toList();
    }

    private static Group span(Column column, DayStep step, LocalDate first, long count, BigDecimal sum) {
        var last = step.around(first).to().orElseThrow();
        return new Group(step.words(first), "%s:between:%s..%s".formatted(column.name(), first, last), count, sum);
    }

    private static List<Group> values(Column column, List<ListReader.Grouped> found) {
        var all = found.stream()
                .map(one -> one.value() == null
                        ? new Group("none", "", one.count(), one.sum())
                        : new Group(
                                column.kind() == FieldKind.CODE ? one.name() : Column.choiceWords(one.code()),
                                "%s:any:%s".formatted(column.name(), one.code()),
                                one.count(),
                                one.sum()))
                .sorted(Comparator.comparing(Group::sum).reversed().thenComparing(Group::words))
                .toList();
        var first = all.subList(0, Math.min(MOST, all.size()));
        return Stream.concat(first.stream(), rest("all others", all.subList(first.size(), all.size())).stream())
                .toList();
    }

    private static List<Group> rest(String words, List<Group> groups) {
        return groups.stream()
                .reduce(Groups::together)
                .map(sum -> List.of(new Group(words, "", sum.count(), sum.sum())))
                .orElse(List.of());
    }

    private static Group together(Group one, Group other) {
        return new Group(
                one.words(),
                one.filter(),
                one.count() + other.count(),
                one.sum().add(other.sum()));
    }
}
