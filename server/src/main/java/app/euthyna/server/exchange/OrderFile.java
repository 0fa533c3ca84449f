package app.euthyna.server.exchange;

import app.euthyna.core.order.OrderKind;
import app.euthyna.server.order.OrderDraft;
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
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/**
 * A CSV file of orders (RFC 4180), one order line a row. Rows of the same customer and reference make up one order; what they say of
 * the order itself must agree. Nothing in a cell is ever evaluated: a text that looks like a formula stays a text.
 */
final class OrderFile {

    static final List<String> COLUMNS = List.of("reference", "customer", "po", "kind", "ordered_on", "requested_on", "remark", "item",
            "quantity", "price", "discount");
    private static final Set<String> MANDATORY = Set.of("reference", "customer", "item", "quantity");
    private static final Pattern POINT = Pattern.compile("-?\\d{1,12}(\\.\\d{1,10})?");
    private static final Pattern COMMA = Pattern.compile("-?\\d{1,12}(,\\d{1,10})?");
    private static final int MOST_ROWS = 200_000;

    /** What is wrong with a cell: the row counts from 1, the header being row 1. */
    record BadCell(long row, String column, String value, String expected) {
    }

    /** An order as the file gives it, with the rows it was read from. */
    record FileOrder(String reference, String customer, List<Long> rows, OrderDraft draft) {
    }

    /** What was read: orders whose rows are all well formed, and every cell that is not. */
    record Read(long rows, List<FileOrder> orders, List<BadCell> bad) {
    }

    private final boolean comma;
    private final List<BadCell> bad = new ArrayList<>();
    private long lastRead;
    private final Predicate<String> customerExists;
    private final Predicate<String> itemExists;

    private OrderFile(boolean comma, Predicate<String> customerExists, Predicate<String> itemExists) {
        this.comma = comma;
        this.customerExists = customerExists;
        this.itemExists = itemExists;
    }

    /**
     * Reads a file whole.
     *
     * @param comma whether decimals are written with a comma
     */
    static Read read(byte[] content, boolean comma, char separator, Predicate<String> customerExists, Predicate<String> itemExists) {
        return new OrderFile(comma, customerExists, itemExists).read(content, separator);
    }

    private Read read(byte[] content, char separator) {
        String text;
        try {
            text = StandardCharsets.UTF_8.newDecoder().onMalformedInput(CodingErrorAction.REPORT)
                    .onUnmappableCharacter(CodingErrorAction.REPORT).decode(ByteBuffer.wrap(content)).toString();
        } catch (CharacterCodingException other) {
            return broken(1, "", "", "a file in UTF-8; this one is in another encoding");
        }
        text = text.startsWith("\ufeff") ? text.substring(1) : text;
        if (text.isBlank()) {
            return broken(1, "", "", "a header row with the columns " + String.join(", ", COLUMNS) + "; the file is empty");
        }
        if (text.indexOf('\0') >= 0) {
            return broken(1, "", "", "a text file; this one contains zero bytes");
        }
        var format = CSVFormat.RFC4180.builder().setDelimiter(separator).setIgnoreEmptyLines(false).get();
        try (var parser = CSVParser.parse(new StringReader(text), format)) {
            return rows(parser);
        } catch (IOException | UncheckedIOException | IllegalStateException unreadable) {
            var cause = unreadable.getCause() instanceof CSVException inner ? inner : unreadable;
            return broken(lastRead + 1, "", "", "a row with its quotes closed, and quotes within them doubled (RFC 4180): " + cause.getMessage());
        }
    }

    private static Read broken(long row, String column, String value, String expected) {
        return new Read(0, List.of(), List.of(new BadCell(row, column, value, expected)));
    }

    private Read rows(CSVParser parser) {
        var records = parser.iterator();
        var columns = new LinkedHashMap<String, Integer>();
        var header = records.next();
        lastRead = 1;
        if (header.size() == 1 && header.get(0).split("[,;\\t]").length > 1) {
            return broken(1, "", header.get(0), "cells parted as chosen with the upload; these seem to be parted by something else");
        }
        for (int at = 0; at < header.size(); at++) {
            var name = header.get(at).strip().toLowerCase(Locale.ROOT);
            if (!COLUMNS.contains(name)) {
                return broken(1, "", header.get(at), "one of the columns " + String.join(", ", COLUMNS));
            }
            if (columns.put(name, at) != null) {
                return broken(1, name, header.get(at), "each column once");
            }
        }
        for (var name : MANDATORY) {
            if (!columns.containsKey(name)) {
                return broken(1, name, "", "a column " + name);
            }
        }
        var groups = new LinkedHashMap<List<String>, List<CSVRecord>>();
        long rows = 0;
        while (records.hasNext()) {
            var record = records.next();
            lastRead = record.getRecordNumber();
            if (record.size() == 1 && record.get(0).isBlank()) {
                continue;
            }
            if (++rows > MOST_ROWS) {
                return broken(rows, "", "", "at most " + MOST_ROWS + " rows in a file");
            }
            if (record.size() != columns.size()) {
                bad.add(new BadCell(record.getRecordNumber(), "", record.size() + " cells", columns.size() + " cells, as in the header"));
                continue;
            }
            var reference = cell(record, columns, "reference").strip();
            if (reference.isEmpty()) {
                bad.add(new BadCell(record.getRecordNumber(), "reference", "", "the sender's own number of the order"));
                continue;
            }
            groups.computeIfAbsent(List.of(cell(record, columns, "customer").strip(), reference), k -> new ArrayList<>()).add(record);
        }
        var orders = new ArrayList<FileOrder>();
        groups.forEach((key, group) -> {
            var failures = bad.size();
            var order = order(key.get(0), key.get(1), group, columns);
            if (bad.size() == failures) {
                orders.add(order);
            }
        });
        if (rows == 0) {
            bad.add(new BadCell(2, "", "", "at least one row below the header"));
        }
        bad.sort(Comparator.comparing(BadCell::row));
        return new Read(rows, orders, bad);
    }

    private static String cell(CSVRecord record, Map<String, Integer> columns, String name) {
        var at = columns.get(name);
        return at == null ? "" : record.get(at);
    }

    private FileOrder order(String customer, String reference, List<CSVRecord> records, Map<String, Integer> columns) {
        var first = records.get(0);
        if (!customerExists.test(customer)) {
            bad.add(new BadCell(first.getRecordNumber(), "customer", customer, "the code of a customer of ours"));
        }
        tooLong(first, "reference", reference, 120);
        for (var name : List.of("po", "kind", "ordered_on", "requested_on", "remark")) {
            for (var record : records) {
                if (!cell(record, columns, name).equals(cell(first, columns, name))) {
                    bad.add(new BadCell(record.getRecordNumber(), name, cell(record, columns, name),
                            "the same as in row " + first.getRecordNumber() + " of the same order"));
                }
            }
        }
        var po = cell(first, columns, "po").strip();
        tooLong(first, "po", po, 120);
        if (po.chars().anyMatch(Character::isISOControl)) {
            bad.add(new BadCell(first.getRecordNumber(), "po", po, "a text on one line"));
        }
        tooLong(first, "remark", cell(first, columns, "remark"), 2000);
        var lines = records.stream().map(record -> line(record, columns)).toList();
        return new FileOrder(reference, customer, records.stream().map(CSVRecord::getRecordNumber).toList(), new OrderDraft(customer, po,
                parsed(first, columns, "kind", "standard, sample, replacement, direct or call_off", OrderFile::kind), null,
                parsed(first, columns, "ordered_on", "a date like 2026-03-02", OrderFile::date),
                parsed(first, columns, "requested_on", "a date like 2026-03-02", OrderFile::date),
                cell(first, columns, "remark"), reference, lines));
    }

    private void tooLong(CSVRecord record, String column, String value, int most) {
        if (value.length() > most) {
            bad.add(new BadCell(record.getRecordNumber(), column, value.substring(0, 40) + "\u2026", "at most " + most + " characters"));
        }
    }

    private OrderDraft.Line line(CSVRecord record, Map<String, Integer> columns) {
        var item = cell(record, columns, "item").strip();
        if (!itemExists.test(item)) {
            bad.add(new BadCell(record.getRecordNumber(), "item", item, "the code of an item of ours"));
        }
        var quantity = number(record, columns, "quantity", 3);
        if (quantity == null && cell(record, columns, "quantity").isBlank() || quantity != null && quantity.signum() <= 0) {
            bad.add(new BadCell(record.getRecordNumber(), "quantity", cell(record, columns, "quantity"), "a quantity above zero"));
        }
        var discount = number(record, columns, "discount", 4);
        if (discount != null && discount.compareTo(BigDecimal.valueOf(100)) > 0) {
            bad.add(new BadCell(record.getRecordNumber(), "discount", cell(record, columns, "discount"), "per cent between 0 and 100"));
        }
        return new OrderDraft.Line(null, item, quantity, number(record, columns, "price", 4), discount, null);
    }

    private BigDecimal number(CSVRecord record, Map<String, Integer> columns, String name, int decimals) {
        var example = comma ? "12,5" : "12.5";
        var expected = "a number like " + example + ", not below zero, with at most " + decimals + " decimals and no thousands mark";
        return parsed(record, columns, name, expected, (file, text) -> {
            if (!(file.comma ? COMMA : POINT).matcher(text).matches()) {
                throw new NumberFormatException(text);
            }
            var number = new BigDecimal(text.replace(',', '.'));
            if (number.signum() < 0 || number.stripTrailingZeros().scale() > decimals) {
                throw new NumberFormatException(text);
            }
            return number;
        });
    }

    private static OrderKind kind(OrderFile file, String text) {
        return OrderKind.valueOf(text.toUpperCase(Locale.ROOT).replace('-', '_'));
    }

    private static LocalDate date(OrderFile file, String text) {
        if (text.length() != 10) {
            throw new DateTimeParseException("not like 2026-03-02", text, 0);
        }
        return LocalDate.parse(text);
    }

    /** A cell's value; null when it is empty or, told as bad, not as expected. */
    private <T> T parsed(CSVRecord record, Map<String, Integer> columns, String name, String expected,
            BiFunction<OrderFile, String, T> parse) {
        var text = cell(record, columns, name).strip();
        if (text.isEmpty()) {
            return null;
        }
        try {
            return parse.apply(this, text);
        } catch (IllegalArgumentException | DateTimeParseException wrong) {
            bad.add(new BadCell(record.getRecordNumber(), name, text.length() > 60 ? text.substring(0, 60) + "\u2026" : text, expected));
            return null;
        }
    }
}
