package app.euthyna.server.lists;

import app.euthyna.core.lists.DayStep;
import app.euthyna.core.lists.Measure;
import app.euthyna.core.lists.Tally;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** The rows of a list put together for a chart: how many there are of each, and what they come to. */
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
     * @param measured what they come to; the count where that is asked for, null where it can't be told
     */
    record Group(
            String words,
            String filter,
            long count,
            @Nullable BigDecimal measured) {}

    /** The same before it is measured. */
    private record Rows(String words, String filter, Tally tally) {
        Rows and(Rows other) {
            return new Rows(words, filter, tally.plus(other.tally));
        }

        Group measured(Measure measure) {
            return new Group(words, filter, tally.count(), tally.come(measure).orElse(null));
        }
    }

    /** Days in their sequence, all else by what it comes to. */
    List<Group> of(ListQuestion asked, Grouping grouping) {
        var found = reader.grouped(asked, grouping);
        var measure = grouping.measure();
        var rows = grouping.step().isPresent()
                ? days(grouping.by(), grouping.step().get(), found)
                : values(grouping.by(), measure, found);
        return rows.stream().map(one -> one.measured(measure)).toList();
    }

    private static List<Rows> days(Column column, DayStep step, List<ListReader.Grouped> found) {
        var spans = new TreeMap<LocalDate, Rows>();
        var none = new ArrayList<Rows>();
        for (var one : found) {
            if (one.value() == null) {
                none.add(new Rows("none", "", one.tally()));
                continue;
            }
            var first = step.around((LocalDate) one.value()).from().orElseThrow();
            spans.merge(first, span(column, step, first, one.tally()), Rows::and);
        }
        if (!spans.isEmpty()) {
            // a day on which nothing was is a day too
            var next = spans.lastKey();
            for (int at = 0; at < MOST_SPANS && next.isAfter(spans.firstKey()); at++) {
                spans.computeIfAbsent(next, first -> span(column, step, first, Tally.NONE));
                next = step.around(next.minusDays(1)).from().orElseThrow();
            }
        }
        var all = List.copyOf(spans.values());
        var early = all.subList(0, Math.max(0, all.size() - MOST_SPANS));
        return Stream.of(rest("earlier", early), all.subList(early.size(), all.size()), none)
                .flatMap(List::stream)
                .toList();
    }

    private static Rows span(Column column, DayStep step, LocalDate first, Tally tally) {
        var last = step.around(first).to().orElseThrow();
        return new Rows(step.words(first), "%s:between:%s..%s".formatted(column.name(), first, last), tally);
    }

    private static List<Rows> values(Column column, Measure measure, List<ListReader.Grouped> found) {
        var largest = Comparator.comparing(
                        (Rows one) -> one.tally().come(measure).orElse(null),
                        Comparator.nullsFirst(Comparator.<BigDecimal>naturalOrder()))
                .reversed();
        var all = found.stream()
                .map(one -> value(column, one))
                .sorted(largest.thenComparing(Rows::words))
                .toList();
        var first = all.subList(0, Math.min(MOST, all.size()));
        return Stream.concat(first.stream(), rest("all others", all.subList(first.size(), all.size())).stream())
                .toList();
    }

    private static Rows value(Column column, ListReader.Grouped one) {
        if (one.code().isBlank()) {
            return new Rows("none", "", one.tally());
        }
        return switch (column.kind()) {
            case CODE -> new Rows(one.name(), "%s:any:%s".formatted(column.name(), one.code()), one.tally());
            case TEXT -> new Rows(one.code(), "%s:is:%s".formatted(column.name(), one.code()), one.tally());
            default -> {
                // what the company has no word for any more is told, but not asked for
                var filter = column.field().choices().contains(one.code())
                        ? "%s:any:%s".formatted(column.name(), one.code())
                        : "";
                yield new Rows(column.words(one.code()), filter, one.tally());
            }
        };
    }

    private static List<Rows> rest(String words, List<Rows> groups) {
        return groups.stream()
                .reduce(Rows::and)
                .map(all -> List.of(new Rows(words, "", all.tally())))
                .orElse(List.of());
    }
}
