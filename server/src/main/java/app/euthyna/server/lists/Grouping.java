package app.euthyna.server.lists;

import app.euthyna.core.lists.DayStep;
import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.ListRefusal;
import app.euthyna.core.lists.Measure;
import app.euthyna.server.platform.RefusedException;
import java.util.Arrays;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * How rows of a list are put together for a chart, written {@code field:measure}: {@code state:count},
 * {@code customer:gross}, {@code orderedOn.month:gross}.
 *
 * @param step of days; empty for all else
 * @param of what is measured; empty for the count
 */
record Grouping(Column by, Optional<DayStep> step, Optional<Column> of) {

    private static final Pattern WRITTEN = Pattern.compile("(\\w+)(?:\\.(day|week|month))?:(\\w+)");
    private static final String COUNT = "count";

    /** Refused where the list has no such chart, or not for whoever asks. */
    static Grouping of(DeclaredList list, String written) {
        var read = WRITTEN.matcher(written);
        if (!read.matches()) {
            throw unknown(list, written);
        }
        var by = list.seen(read.group(1)).filter(Column::isGrouped);
        var step = Arrays.stream(DayStep.values())
                .filter(one -> one.written().equals(read.group(2)))
                .findFirst();
        var of = list.seen(read.group(3)).filter(column -> column.measure().isPresent());
        if (by.isEmpty()
                || step.isPresent() != (by.get().kind() == FieldKind.DAY)
                || (of.isEmpty() && !read.group(3).equals(COUNT))) {
            throw unknown(list, written);
        }
        return new Grouping(by.get(), step, of);
    }

    Measure measure() {
        return of.flatMap(Column::measure).orElse(Measure.COUNT);
    }

    private static RefusedException unknown(DeclaredList list, String written) {
        return new RefusedException(new ListRefusal.NotCharted(list.name(), written));
    }
}
