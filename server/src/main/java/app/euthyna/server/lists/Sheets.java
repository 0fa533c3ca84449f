package app.euthyna.server.lists;

import app.euthyna.core.lists.FieldKind;
import app.euthyna.core.lists.ListRefusal;
import app.euthyna.core.lists.Measure;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.lists.ListReader.Coded;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.springframework.stereotype.Component;

/** What is asked of a list as it is set on paper: rows as they are read, and what they add up to. */
@Component
class Sheets {

    /** So many rows are set on paper at most; beyond that there are files. */
    static final int MOST = 2_000;

    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ROOT);

    private static final Set<FieldKind> FIGURES = EnumSet.of(FieldKind.AMOUNT, FieldKind.QUANTITY, FieldKind.COUNT);

    private final ListReader reader;
    private final Sentences sentences;

    Sheets(ListReader reader, Sentences sentences) {
        this.reader = reader;
        this.sentences = sentences;
    }

    /** Refused where there are too many rows for paper. */
    ListPaper.Sheet of(ListQuestion asked) {
        var totals = reader.totals(asked);
        if (totals.count() > MOST) {
            throw new RefusedException(new ListRefusal.TooLongForPaper(totals.count(), MOST));
        }
        var rows = new ArrayList<List<String>>();
        reader.each(
                asked,
                row -> rows.add(asked.columns().stream()
                        .map(column -> written(column, row.cells().get(column.name())))
                        .toList()));
        return new ListPaper.Sheet(
                asked.list().title(),
                asked.filters().stream()
                        .map(filter -> sentences.whole(asked, filter))
                        .toList(),
                asked.columns().stream()
                        .map(column -> new ListPaper.Heading(column.label(), FIGURES.contains(column.kind())))
                        .toList(),
                rows,
                total(asked, totals));
    }

    private static List<String> total(ListQuestion asked, ListReader.Totals totals) {
        var cells = new ArrayList<String>();
        for (var column : asked.columns()) {
            var sum = totals.sums().get(column.name());
            cells.add(
                    cells.isEmpty()
                            ? "%s %s"
                                    .formatted(
                                            Figures.grouped(BigDecimal.valueOf(totals.count())),
                                            totals.count() == 1
                                                    ? asked.list().one()
                                                    : asked.list().many())
                            : sum == null ? "" : middle(column) + written(column, sum));
        }
        return cells;
    }

    /** A middle is no sum, and is called so. */
    private static String middle(Column column) {
        return column.measure().filter(Measure.MEDIAN::equals).isPresent() ? "median " : "";
    }

    private static String written(Column column, @Nullable Object value) {
        if (value == null) {
            return "";
        } else if (value instanceof Coded coded) {
            return coded.name();
        } else if (value instanceof LocalDate day) {
            return Figures.day(day);
        } else if (value instanceof OffsetDateTime moment) {
            return "%s, %s".formatted(Figures.day(moment.toLocalDate()), moment.format(TIME));
        } else if (value instanceof BigDecimal figure) {
            return Figures.grouped(column.kind() == FieldKind.AMOUNT ? figure : figure.stripTrailingZeros());
        }
        return column.isOneOfAFew() ? column.words(value.toString()) : value.toString();
    }
}
