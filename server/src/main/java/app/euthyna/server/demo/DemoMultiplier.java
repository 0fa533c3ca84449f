package app.euthyna.server.demo;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.sql.Timestamp;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes a large demo company out of a small one: every document is copied so many times under numbers of its own, with
 * its stock, its history and its entries, which are chained anew. A hundred thousand orders would take hours by the
 * road of the commands; the proof holds over what is copied as over what was entered. For the demo and the benchmark
 * only.
 */
@Component
class DemoMultiplier {

    /** Tables in the order in which they may be filled, and which column of each points to rows that are copied too. */
    private static final Map<String, Map<String, String>> TABLES = tables();

    private static Map<String, Map<String, String>> tables() {
        var tables = new LinkedHashMap<String, Map<String, String>>();
        tables.put("sales_order", Map.of("id", "sales_order", "po_taken", "history", "clearing", "history"));
        tables.put("history", Map.of("moment", "history", "order_id", "sales_order"));
        tables.put("sales_order_line", Map.of("id", "sales_order_line", "order_id", "sales_order"));
        tables.put("order_version", Map.of("id", "order_version", "order_id", "sales_order"));
        tables.put("cancellation", Map.of("id", "cancellation", "order_id", "sales_order"));
        tables.put(
                "cancellation_line",
                Map.of("id", "cancellation_line", "cancellation_id", "cancellation", "root_order_id", "sales_order"));
        tables.put("stock_claim", Map.of("order_id", "sales_order", "clearing", "history"));
        tables.put("dispatch", Map.of("id", "dispatch", "order_id", "sales_order"));
        tables.put(
                "dispatch_line",
                Map.of("id", "dispatch_line", "dispatch_id", "dispatch", "root_order_id", "sales_order"));
        tables.put("invoice", Map.of("id", "invoice"));
        tables.put(
                "invoice_line", Map.of("id", "invoice_line", "invoice_id", "invoice", "root_order_id", "sales_order"));
        tables.put(
                "invoice_line_source",
                Map.of(
                        "id",
                        "invoice_line_source",
                        "invoice_line_id",
                        "invoice_line",
                        "root_order_id",
                        "sales_order",
                        "dispatch_id",
                        "dispatch"));
        tables.put("payment", Map.of("id", "payment"));
        tables.put(
                "allocation",
                Map.of("id", "allocation", "payment_id", "payment", "invoice_id", "invoice", "moment", "history"));
        tables.put("finding", Map.of("id", "finding", "order_id", "sales_order"));
        tables.put("approval_request", Map.of("order_id", "sales_order"));
        tables.put("approval", Map.of("id", "approval", "order_id", "sales_order"));
        tables.put("open_order", Map.of("order_id", "sales_order"));
        tables.put("stock_movement", Map.of("id", "stock_movement"));
        return tables;
    }

    /** Where numbers of each kind stand, and their sequence; invoices are numbered by year. */
    private static final Map<DocumentKind, String> NUMBERED = Map.of(
            DocumentKind.ORDER,
            "sales_order",
            DocumentKind.CANCELLATION,
            "cancellation",
            DocumentKind.DISPATCH,
            "dispatch",
            DocumentKind.INVOICE,
            "invoice",
            DocumentKind.PAYMENT,
            "payment");

    private final JdbcClient jdbc;
    private final JdbcTemplate batches;
    private final TransactionTemplate transactions;
    private final Company company;

    DemoMultiplier(JdbcClient jdbc, JdbcTemplate batches, TransactionTemplate transactions, Company company) {
        this.jdbc = jdbc;
        this.batches = batches;
        this.transactions = transactions;
        this.company = company;
    }

    /** How far numbers and ids lie apart from one copy to the next. */
    private record Spans(Map<String, Long> ids, Map<DocumentKind, Long> numbers, Map<String, Long> invoicesOfYear) {

        String shifted(DocumentKind kind, String number, long copy) {
            if (kind == DocumentKind.INVOICE) {
                var year = number.substring(0, 4);
                return "%s-%05d".formatted(year, Long.parseLong(number.substring(5)) + copy * invoicesOfYear.get(year));
            }
            return kind.prefix()
                    + (Long.parseLong(number.substring(kind.prefix().length())) + copy * numbers.get(kind));
        }

        /** The same as SQL over a column. */
        String shifted(DocumentKind kind, String column, String copy) {
            if (kind == DocumentKind.INVOICE) {
                var years = new StringBuilder("case substring(%s, 1, 4)".formatted(column));
                invoicesOfYear.forEach((year, span) ->
                        years.append(" when '").append(year).append("' then ").append(span));
                var next = "(cast(substring(%s, 6) as bigint) + %s * %s end)".formatted(column, copy, years);
                return "substring(%1$s, 1, 5) || case when %2$s < 100000 then lpad(cast(%2$s as varchar(20)), 5, '0') else cast(%2$s as varchar(20)) end"
                        .formatted(column, next);
            }
            return "'%s' || cast(cast(substring(%s, %d) as bigint) + %s * %d as varchar(20))"
                    .formatted(kind.prefix(), column, kind.prefix().length() + 1, copy, numbers.get(kind));
        }
    }

    /** Copies all that is there until there are {@code times} of it. */
    void multiply(int times) {
        var spans = spans();
        var entries = entries();
        for (int copy = 1; copy < times; copy++) {
            var at = copy;
            transactions.executeWithoutResult(status -> {
                TABLES.keySet().forEach(table -> copy(table, at, spans));
                post(entries, at, spans);
            });
        }
        transactions.executeWithoutResult(status -> {
            jdbc.sql("update shelf set on_hand = on_hand * ?, reserved = reserved * ?, stock_value = stock_value * ?")
                    .params(times, times, times)
                    .update();
            jdbc.sql("update number_series set next_value = (next_value - 1) * ? + 1")
                    .param(times)
                    .update();
            spans.numbers()
                    .forEach((kind, span) -> jdbc.sql("alter sequence %s_number restart with %d"
                                    .formatted(kind.name().toLowerCase(Locale.ROOT), 1001 + span * times))
                            .update());
            spans.ids()
                    .forEach((table, span) -> jdbc.sql("alter table %s alter column %s restart with %d"
                                    .formatted(table, table.equals("history") ? "moment" : "id", 1 + span * times))
                            .update());
        });
    }

    private Spans spans() {
        var ids = new HashMap<String, Long>();
        for (var table : List.of(
                "history",
                "sales_order",
                "sales_order_line",
                "order_version",
                "cancellation",
                "cancellation_line",
                "dispatch",
                "dispatch_line",
                "invoice",
                "invoice_line",
                "invoice_line_source",
                "payment",
                "allocation",
                "finding",
                "approval",
                "stock_movement",
                "journal_entry",
                "journal_line")) {
            ids.put(
                    table,
                    figure("select coalesce(max(%s), 0) from %s"
                            .formatted(table.equals("history") ? "moment" : "id", table)));
        }
        var numbers = new HashMap<DocumentKind, Long>();
        NUMBERED.forEach((kind, table) -> {
            if (kind != DocumentKind.INVOICE) {
                numbers.put(
                        kind,
                        figure("select coalesce(max(cast(substring(number, %d) as bigint)), 1000) - 1000 from %s"
                                .formatted(kind.prefix().length() + 1, table)));
            }
        });
        numbers.put(
                DocumentKind.STOCK_RECEIPT,
                figure("select coalesce(max(cast(substring(document_number, 4) as bigint)), 1000) - 1000 from"
                        + " stock_movement where document_kind = 'STOCK_RECEIPT'"));
        var years = new HashMap<String, Long>();
        jdbc.sql("select substring(number, 1, 4), max(cast(substring(number, 6) as bigint)) from invoice group"
                        + " by substring(number, 1, 4)")
                .query((r, n) -> years.put(r.getString(1), r.getLong(2)))
                .list();
        return new Spans(ids, numbers, years);
    }

    private long figure(String sql) {
        return jdbc.sql(sql).query(Long.class).single();
    }

    private void copy(String table, int copy, Spans spans) {
        var columns = new ArrayList<String>();
        batches.query("select * from " + table + " where 1 = 0", rows -> {
            for (int at = 1; at <= rows.getMetaData().getColumnCount(); at++) {
                columns.add(rows.getMetaData().getColumnName(at).toLowerCase(Locale.ROOT));
            }
            return null;
        });
        var points = TABLES.get(table);
        var values = columns.stream()
                .map(column -> value(table, column, points.get(column), copy, spans))
                .toList();
        var key = columns.contains("id") ? "id" : columns.contains("moment") ? "moment" : "order_id";
        jdbc.sql("insert into %s (%s) select %s from %s where %s <= %d"
                        .formatted(
                                table,
                                String.join(", ", columns),
                                String.join(", ", values),
                                table,
                                key,
                                spans.ids().get(key.equals("order_id") ? "sales_order" : table)))
                .update();
    }

    private static String value(String table, String column, String pointsTo, int copy, Spans spans) {
        var times = String.valueOf(copy);
        if (pointsTo != null) {
            return column + " + " + spans.ids().get(pointsTo) * copy;
        }
        return switch (column) {
            case "number" ->
                NUMBERED.entrySet().stream()
                        .filter(e -> e.getValue().equals(table))
                        .findFirst()
                        .map(e -> spans.shifted(e.getKey(), column, times))
                        .orElse(column);
            case "po" -> "case when po = '' then '' else po || ' R" + copy + "' end";
            case "po_normal", "po_folded" ->
                "case when %1$s = '' then '' else %1$s || 'R%2$d' end".formatted(column, copy);
            case "import_reference" -> "import_reference || '-R" + copy + "'";
            case "document_number" -> {
                var sql = new StringBuilder("case document_kind");
                for (var kind : DocumentKind.values()) {
                    if (kind == DocumentKind.INVOICE || spans.numbers().containsKey(kind)) {
                        sql.append(" when '")
                                .append(kind.name())
                                .append("' then ")
                                .append(spans.shifted(kind, column, times));
                    }
                }
                yield sql.append(" else document_number end").toString();
            }
            default -> column;
        };
    }

    private record Posted(long customerId, Timestamp at, String by, Entry entry) {}

    private List<Posted> entries() {
        var lines = new HashMap<Long, List<EntryLine>>();
        jdbc.sql("select entry_id, role, account, amount from journal_line order by entry_id, line_no")
                .query((r, n) -> lines.computeIfAbsent(r.getLong(1), id -> new ArrayList<>())
                        .add(new EntryLine(
                                AccountRole.valueOf(r.getString(2).toUpperCase(Locale.ROOT)),
                                r.getString(3),
                                company.money(r.getBigDecimal(4)))))
                .list();
        return jdbc.sql("""
            select e.id, e.number, e.entry_date, e.event, e.document_kind, e.document_number, coalesce(c.code, ''),
                coalesce(c.id, 0), e.posted_at, e.posted_by
            from journal_entry e left join customer c on c.id = e.customer_id order by e.id\
            """)
                .query((r, n) -> new Posted(
                        r.getLong(8),
                        r.getTimestamp(9),
                        r.getString(10),
                        new Entry(
                                r.getString(2),
                                r.getObject(3, LocalDate.class),
                                r.getString(4),
                                new DocumentRef(DocumentKind.valueOf(r.getString(5)), r.getString(6)),
                                r.getString(7),
                                lines.get(r.getLong(1)))))
                .list();
    }

    /** Entries are chained by hash, so they can't be copied: each is made anew behind the last. */
    private void post(List<Posted> entries, int copy, Spans spans) {
        var number = figure("select last_number from ledger_head where id = 1");
        var hash = jdbc.sql("select last_hash from ledger_head where id = 1")
                .query(String.class)
                .single();
        var heads = new ArrayList<Object[]>();
        var lines = new ArrayList<Object[]>();
        long id = spans.ids().get("journal_entry") * copy;
        long lineId = spans.ids().get("journal_line") * copy;
        for (var posted : entries) {
            var was = posted.entry();
            var document = new DocumentRef(
                    was.document().kind(),
                    spans.shifted(was.document().kind(), was.document().number(), (long) copy));
            var entry = new Entry(
                    DocumentKind.ENTRY.prefix() + ++number,
                    was.date(),
                    was.event(),
                    document,
                    was.customer(),
                    was.lines());
            var next = entry.hash(hash);
            heads.add(new Object[] {
                ++id,
                entry.number(),
                entry.date(),
                entry.event(),
                document.kind().name(),
                document.number(),
                posted.customerId() == 0 ? null : posted.customerId(),
                entry.date(),
                posted.at(),
                posted.by(),
                hash,
                next
            });
            for (int at = 0; at < entry.lines().size(); at++) {
                var line = entry.lines().get(at);
                BigDecimal amount = line.amount().amount();
                lines.add(
                        new Object[] {++lineId, id, at + 1, line.role().code(), line.account(), amount, entry.date()});
            }
            hash = next;
        }
        batches.batchUpdate("""
            insert into journal_entry (id, number, entry_date, event, document_kind, document_number, customer_id,
                written_on, posted_at, posted_by, previous_hash, hash)
            values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
            """, heads);
        batches.batchUpdate(
                "insert into journal_line (id, entry_id, line_no, role, account, amount, entry_date) values (?, ?, ?,"
                        + " ?, ?, ?, ?)",
                lines);
        jdbc.sql("update ledger_head set last_number = ?, last_hash = ? where id = 1")
                .params(number, hash)
                .update();
    }
}
