package app.euthyna.server.lists;

import app.euthyna.server.lists.ListReader.Coded;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.springframework.stereotype.Component;

/**
 * Everything that is asked of a list as a file: the same rows in the same sequence with the same columns. Rows are
 * written as they are read, so that a million need no more memory than a thousand.
 */
@Component
class Exports {

    /** Rows of a sheet, its heading counted in (ECMA-376: 1,048,576). */
    private static final int ROWS_OF_SHEET = 1_048_576;

    /** So many rows of a sheet are kept before they are written. */
    private static final int TOGETHER = 1_000;

    private static final String BYTE_ORDER_MARK = "\uFEFF";
    /** What a program that calculates takes for the beginning of a formula. */
    private static final String FORMULA = "=+-@\t\r";

    private final ListReader reader;
    private final Sheets sheets;
    private final ListPaper paper;

    Exports(ListReader reader, Sheets sheets, ListPaper paper) {
        this.reader = reader;
        this.sheets = sheets;
        this.paper = paper;
    }

    /** What a file is. */
    enum Format {
        CSV("text/csv;charset=UTF-8"),
        XLSX("application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
        PDF("application/pdf");

        private final String type;

        Format(String type) {
            this.type = type;
        }

        String type() {
            return type;
        }
    }

    /**
     * Comma-separated values (RFC 4180) in UTF-8: figures with a point, days as in ISO 8601.
     *
     * @param marked with a byte order mark, for programs that take the file for something else without
     */
    void csv(ListQuestion asked, boolean marked, OutputStream out) throws IOException {
        var writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
        if (marked) {
            writer.write(BYTE_ORDER_MARK);
        }
        var printer = new CSVPrinter(writer, CSVFormat.RFC4180);
        printer.printRecord(headings(asked));
        reader.each(asked, row -> {
            try {
                printer.printRecord(values(asked, row).map(Exports::written).toList());
            } catch (IOException gone) {
                throw new UncheckedIOException(gone);
            }
        });
        printer.flush();
    }

    /** On paper, up to some thousand rows: beyond that refused. */
    byte[] paper(ListQuestion asked) {
        return paper.pdf(sheets.of(asked));
    }

    /** A workbook (ECMA-376) whose figures and days are figures and days; on as many sheets as it takes. */
    void workbook(ListQuestion asked, OutputStream out) throws IOException {
        try (var book = new Workbook(out, "Euthyna", "1.0")) {
            var pages = new Pages(book, asked);
            reader.each(asked, row -> pages.write(values(asked, row).toList()));
            pages.finish();
        }
    }

    /** The sheets of a workbook, one after the other. */
    private static final class Pages {
        private final Workbook book;
        private final ListQuestion asked;
        private Worksheet sheet;
        private int row;
        private int sheets;

        Pages(Workbook book, ListQuestion asked) {
            this.book = book;
            this.asked = asked;
            begin();
        }

        private void begin() {
            sheets++;
            sheet = book.newWorksheet(asked.list().title() + (sheets == 1 ? "" : " " + sheets));
            sheet.freezePane(0, 1);
            var headings = headings(asked);
            for (int at = 0; at < headings.size(); at++) {
                sheet.inlineString(0, at, headings.get(at));
                sheet.style(0, at).bold().set();
                sheet.width(at, 16);
            }
            row = 1;
        }

        void write(List<Object> values) {
            if (row == ROWS_OF_SHEET) {
                finish();
                begin();
            }
            for (int at = 0; at < values.size(); at++) {
                cell(at, values.get(at));
            }
            row++;
            if (row % TOGETHER == 0) {
                try {
                    sheet.flush();
                } catch (IOException gone) {
                    throw new UncheckedIOException(gone);
                }
            }
        }

        private void cell(int at, Object value) {
            if (value instanceof BigDecimal figure) {
                sheet.value(row, at, figure);
                sheet.style(row, at)
                        .format(figure.scale() > 0 ? "#,##0.00##" : "#,##0")
                        .set();
            } else if (value instanceof Number count) {
                sheet.value(row, at, count);
            } else if (value instanceof LocalDate day) {
                sheet.value(row, at, day);
                sheet.style(row, at).format("yyyy-mm-dd").set();
            } else if (value instanceof OffsetDateTime moment) {
                sheet.value(row, at, moment.toLocalDateTime());
                sheet.style(row, at).format("yyyy-mm-dd hh:mm:ss").set();
            } else if (value != null) {
                sheet.inlineString(row, at, harmless(value.toString()));
            }
        }

        void finish() {
            try {
                sheet.finish();
            } catch (IOException gone) {
                throw new UncheckedIOException(gone);
            }
        }
    }

    /** What a code names has a column of its own beside it. */
    private static List<String> headings(ListQuestion asked) {
        var headings = new ArrayList<String>();
        for (var column : asked.columns()) {
            headings.add(column.label());
            if (column.named().isPresent()) {
                headings.add(column.label() + " name");
            }
        }
        return headings;
    }

    private static Stream<Object> values(ListQuestion asked, ListReader.Row row) {
        return asked.columns().stream().flatMap(column -> {
            var value = row.cells().get(column.name());
            if (column.named().isEmpty()) {
                return Stream.of(value == null ? "" : value);
            }
            return value instanceof Coded coded ? Stream.of(coded.code(), coded.name()) : Stream.of("", "");
        });
    }

    private static String written(Object value) {
        return value instanceof BigDecimal figure
                ? figure.toPlainString()
                : value instanceof String || value instanceof Enum ? harmless(value.toString()) : value.toString();
    }

    /** A text that no program takes for a formula. */
    private static String harmless(String text) {
        return !text.isEmpty() && FORMULA.indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }
}
