package app.euthyna.server.exchange;

import app.euthyna.core.order.Details;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.ShipTo;
import app.euthyna.server.exchange.CsvTable.BadCell;
import app.euthyna.server.order.OrderDraft;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Predicate;
import org.apache.commons.csv.CSVRecord;

/**
 * A CSV file of orders, one order line a row. Rows of the same customer and reference make up one order; what they say
 * of the order itself must agree.
 */
final class OrderFile {

    private static final List<String> COLUMNS = List.of(
            "reference",
            "customer",
            "po",
            "kind",
            "ordered_on",
            "requested_on",
            "remark",
            "item",
            "quantity",
            "price",
            "discount",
            "replaces");
    private static final List<String> MANDATORY = List.of("reference", "customer", "item", "quantity");

    /** An order as the file gives it, with the rows it was read from. */
    record FileOrder(String reference, String customer, List<Long> rows, OrderDraft draft) {}

    /** What was read: orders whose rows are all well formed, and every cell that is not. */
    record Read(long rows, List<FileOrder> orders, List<BadCell> bad) {}

    private final CsvTable table;
    private final Predicate<String> customerExists;
    private final Predicate<String> itemExists;

    private OrderFile(CsvTable table, Predicate<String> customerExists, Predicate<String> itemExists) {
        this.table = table;
        this.customerExists = customerExists;
        this.itemExists = itemExists;
    }

    /** Reads a file whole. */
    static Read read(
            byte[] content, CsvTable.Dialect dialect, Predicate<String> customerExists, Predicate<String> itemExists) {
        return new OrderFile(CsvTable.read(content, dialect, COLUMNS, MANDATORY), customerExists, itemExists).read();
    }

    private Read read() {
        var groups = new LinkedHashMap<List<String>, List<CSVRecord>>();
        for (var record : table.records()) {
            var reference = table.text(record, "reference", 120, "the sender's order number");
            if (reference != null) {
                groups.computeIfAbsent(
                                List.of(table.cell(record, "customer").strip(), reference), k -> new ArrayList<>())
                        .add(record);
            }
        }
        var orders = new ArrayList<FileOrder>();
        groups.forEach((key, group) -> {
            var failures = table.failures();
            var order = order(key.get(0), key.get(1), group);
            if (table.failures() == failures) {
                orders.add(order);
            }
        });
        return new Read(table.rows(), orders, table.bad());
    }

    private FileOrder order(String customer, String reference, List<CSVRecord> records) {
        var first = records.get(0);
        if (!customerExists.test(customer)) {
            table.bad(first, "customer", customer, "a customer code");
        }
        for (var name : List.of("po", "kind", "ordered_on", "requested_on", "remark", "replaces")) {
            for (var record : records) {
                if (!table.cell(record, name).equals(table.cell(first, name))) {
                    table.bad(
                            record,
                            name,
                            table.cell(record, name),
                            "the same as in row " + first.getRecordNumber() + " of the same order");
                }
            }
        }
        var po = table.text(first, "po", 120, null);
        var remark = table.cell(first, "remark");
        if (remark.length() > 2000) {
            table.bad(first, "remark", remark, "at most 2000 characters");
        }
        var lines = records.stream().map(this::line).toList();
        return new FileOrder(
                reference,
                customer,
                records.stream().map(CSVRecord::getRecordNumber).toList(),
                new OrderDraft(
                        customer,
                        po,
                        table.parsed(
                                first, "kind", "standard, sample, replacement, direct or call_off", OrderFile::kind),
                        null,
                        table.date(first, "ordered_on"),
                        table.date(first, "requested_on"),
                        remark,
                        reference,
                        details(first),
                        lines));
    }

    /** Of what is written beside its lines a file says only what a replacement replaces. */
    private Details details(CSVRecord first) {
        var replaces = table.text(first, "replaces", 40, null);
        return replaces == null || replaces.isBlank()
                ? null
                : new Details("", null, ShipTo.CUSTOMER, Map.of(), replaces.strip());
    }

    private OrderDraft.Line line(CSVRecord record) {
        var item = table.cell(record, "item").strip();
        if (!itemExists.test(item)) {
            table.bad(record, "item", item, "an item code");
        }
        var quantity = table.number(record, "quantity", 3);
        if ((quantity == null && table.cell(record, "quantity").isBlank())
                || (quantity != null && quantity.signum() <= 0)) {
            table.bad(record, "quantity", table.cell(record, "quantity"), "a quantity above zero");
        }
        var discount = table.number(record, "discount", 4);
        if (discount != null && discount.compareTo(BigDecimal.valueOf(100)) > 0) {
            table.bad(record, "discount", table.cell(record, "discount"), "a percentage between 0 and 100");
        }
        return new OrderDraft.Line(null, item, quantity, table.number(record, "price", 4), discount, null);
    }

    private static OrderKind kind(String text) {
        return OrderKind.valueOf(text.toUpperCase(Locale.ROOT).replace('-', '_'));
    }
}
