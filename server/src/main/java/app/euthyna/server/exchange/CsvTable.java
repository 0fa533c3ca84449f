package app.euthyna.server.exchange;

import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Texts;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * A CSV file (RFC 4180) with a header row, read whole, and every cell of it that is not as expected. Nothing in a cell
 * is ever evaluated: a text that looks like a formula stays a text.
 */
final class CsvTable {

    private static final Pattern POINT = Pattern.compile("-?\\d{1,12}(\\.\\d{1,10})?");
    private static final Pattern COMMA = Pattern.compile("-?\\d{1,12}(,\\d{1,10})?");
    private static final int MOST_ROWS = 200_000;

    /** What is wrong with a cell: the row counts from 1, the header being row 1. Of a long value, how it begins. */
    record BadCell(long row, String column, String value, String expected) {

        private static final int LONGEST = 60;

        BadCell {
            value = value.length() > LONGEST ? Texts.cut(value, LONGEST) + "\u2026" : value;
        }
    }

    /** How a file is written: whether decimals have a comma, and what stands between cells. */
    record Dialect(boolean comma, char delimiter) {}

    private final Dialect dialect;
    private final List<String> known;
    private final List<String> mandatory;
    private final Map<String, Integer> columns = new LinkedHashMap<>();
    private final List<CSVRecord> records = new ArrayList<>();
    private final List<BadCell> bad = new ArrayList<>();
    private long lastRead;
    private long lastRows;

    private CsvTable(Dialect dialect, List<String> known, List<String> mandatory) {
        this.dialect = dialect;
        this.known = known;
        this.mandatory = mandatory;
    }

    /**
     * Reads a file whole; one that can't be read at all has no rows and says why in its bad cells.
     *
     * @param known the columns that may stand in the header
     * @param mandatory those that must
     */
    static CsvTable read(byte[] content, Dialect dialect, List<String> known, List<String> mandatory) {
        var table = new CsvTable(dialect, known, mandatory);
        table.read(content);
        return table;
    }

    /** Rows below the header that have as many cells as it. */
    List<CSVRecord> records() {
        return records;
    }

    /** So many rows stand below the header. */
    long rows() {
        return lastRows;
    }

    /** What was found wrong so far, from the top of the file down. */
    List<BadCell> bad() {
        return bad.stream().sorted(Comparator.comparing(BadCell::row)).toList();
    }

    /** The first of them, for a report that is not kept. */
    List<BadCell> firstBad() {
        return bad().stream().limit(Pages.SIZE).toList();
    }

    /** That nothing is imported, and why. */
    String refusal() {
        return "Nothing imported: %s%s."
                .formatted(
                        bad.size() == 1 ? "one cell is wrong" : bad.size() + " cells are wrong",
                        bad.size() > Pages.SIZE ? "; the first " + Pages.SIZE + " are below" : "");
    }

    int failures() {
        return bad.size();
    }

    private void read(byte[] content) {
        String text;
        try {
            text = StandardCharsets.UTF_8
                    .newDecoder()
                    .onMalformedInput(CodingErrorAction.REPORT)
                    .onUnmappableCharacter(CodingErrorAction.REPORT)
                    .decode(ByteBuffer.wrap(content))
                    .toString();
        } catch (CharacterCodingException other) {
            broken(1, "", "", "a file in UTF-8; this one is in another encoding");
            return;
        }
        text = text.startsWith("\ufeff") ? text.substring(1) : text;
        if (text.isBlank()) {
            broken(1, "", "", "a header row with the columns " + String.join(", ", known) + "; the file is empty");
            return;
        }
        if (text.indexOf('\0') >= 0) {
            broken(1, "", "", "a text file; this one contains zero bytes");
            return;
        }
        var format = CSVFormat.RFC4180
                .builder()
                .setDelimiter(dialect.delimiter())
                .setIgnoreEmptyLines(false)
                .get();
        try (var parser = CSVParser.parse(new StringReader(text), format)) {
            rows(parser);
        } catch (IOException | UncheckedIOException | IllegalStateException unreadable) {
            var cause = unreadable.getCause() instanceof CSVException inner ? inner : unreadable;
            broken(
                    lastRead + 1,
                    "",
                    "",
                    "a row with its quotes closed, and quotes within them doubled (RFC 4180): " + cause.getMessage());
        }
    }

    private void broken(long row, String column, String value, String expected) {
        records.clear();
        bad.clear();
        lastRows = 0;
        bad.add(new BadCell(row, column, value, expected));
    }

    private void rows(CSVParser parser) {
        var read = parser.iterator();
        var header = read.next();
        lastRead = 1;
        if (header.size() == 1 && header.get(0).split("[,;\\t]").length > 1) {
            broken(1, "", header.get(0), "cells separated by the chosen delimiter; this file seems to use another");
            return;
        }
        for (int at = 0; at < header.size(); at++) {
            var name = header.get(at).strip().toLowerCase(Locale.ROOT);
            if (!known.contains(name)) {
                broken(1, "", header.get(at), "one of the columns " + String.join(", ", known));
                return;
            }
            if (columns.put(name, at) != null) {
                broken(1, name, header.get(at), "each column once");
                return;
            }
        }
        for (var name : mandatory) {
            if (!columns.containsKey(name)) {
                broken(1, name, "", "a column " + name);
                return;
            }
        }
        while (read.hasNext()) {
            var record = read.next();
            lastRead = record.getRecordNumber();
            if (record.size() == 1 && record.get(0).isBlank()) {
                continue;
            }
            if (++lastRows > MOST_ROWS) {
                broken(lastRows, "", "", "at most " + MOST_ROWS + " rows in a file");
                return;
            }
            if (record.size() == columns.size()) {
                records.add(record);
            } else {
                bad.add(new BadCell(
                        record.getRecordNumber(),
                        "",
                        record.size() + " cells",
                        columns.size() + " cells, as in the header"));
            }
        }
        if (lastRows == 0) {
            bad.add(new BadCell(2, "", "", "at least one row below the header"));
        }
    }

    String cell(CSVRecord record, String name) {
        var at = columns.get(name);
        return at == null ? "" : record.get(at);
    }

    /** Tells a cell as not as expected. */
    void bad(CSVRecord record, String column, String value, String expected) {
        bad.add(new BadCell(record.getRecordNumber(), column, value, expected));
    }

    /**
     * A text on one line; null, and told as bad, when it is too long, or empty and {@code mandatory} says what is
     * expected.
     */
    String text(CSVRecord record, String column, int most, String mandatory) {
        var value = cell(record, column).strip();
        if (value.length() > most) {
            bad(record, column, value, "at most " + most + " characters");
        } else if (value.chars().anyMatch(Character::isISOControl)) {
            bad(record, column, value, "a text on one line");
        } else if (value.isEmpty() && mandatory != null) {
            bad(record, column, value, mandatory);
        } else {
            return value;
        }
        return null;
    }

    /** A number that is not below zero; null when the cell is empty or, told as bad, no such number. */
    BigDecimal number(CSVRecord record, String column, int decimals) {
        var example = dialect.comma() ? "12,5" : "12.5";
        var expected = "a number like " + example + ", not below zero, with at most " + decimals
                + " decimals and no thousands mark";
        return parsed(record, column, expected, text -> {
            if (!(dialect.comma() ? COMMA : POINT).matcher(text).matches()) {
                throw new NumberFormatException(text);
            }
            var number = new BigDecimal(text.replace(',', '.'));
            if (number.signum() < 0 || number.stripTrailingZeros().scale() > decimals) {
                throw new NumberFormatException(text);
            }
            return number;
        });
    }

    LocalDate date(CSVRecord record, String column) {
        return parsed(record, column, "a date like 2026-03-02", text -> {
            if (text.length() != 10) {
                throw new DateTimeParseException("not like 2026-03-02", text, 0);
            }
            return LocalDate.parse(text);
        });
    }

    /** A cell's value; null when it is empty or, told as bad, not as expected. */
    <T> T parsed(CSVRecord record, String column, String expected, Function<String, T> parse) {
        var text = cell(record, column).strip();
        if (text.isEmpty()) {
            return null;
        }
        try {
            return parse.apply(text);
        } catch (IllegalArgumentException | DateTimeParseException wrong) {
            bad(record, column, text, expected);
            return null;
        }
    }
}
