package app.euthyna.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/** Which tables of the company a copy has rows of its own in, and which of their columns point to other such rows. */
final class CopiedTables {

    /** What all copies share, and what passes: settings, people, goods, queues, logs of this one process. */
    private static final Set<String> SHARED = Set.of(
            "account",
            "app_user",
            "bank_entry",
            "bank_entry_payment",
            "bank_statement",
            "batch",
            "batch_entry",
            "command_log",
            "company",
            "company_rules",
            "daily_recheck",
            "deputy",
            "flyway_schema_history",
            "import_log",
            "import_page",
            "item",
            "job",
            "journal_day",
            "lane_limit",
            "last_look",
            "ledger_head",
            "list_view",
            "number_series",
            "offer_queue",
            "outbox_message",
            "past_invoice",
            "period_closing",
            "posting_rule",
            "posting_rule_change",
            "print_run",
            "printing",
            "proof_run",
            "recheck_queue",
            "reminder_run",
            "shelf",
            "sign_in",
            "simulated_carrier",
            "simulated_payment_service",
            "simulated_register",
            "site",
            "spring_session",
            "spring_session_attributes",
            "standard_view",
            "stock_file",
            "user_change");

    /** Rules that are a customer's own in some rows and everybody's in others: only a customer's are copied. */
    private static final Map<String, String> OWN_OF_CUSTOMERS = Map.of(
            "approval_rule", "customer_id is not null",
            "price_break", "customer_id is not null",
            "quota", "scope = 'CUSTOMER'");

    /** Others point to it without a foreign key, so that they may be filled before it. */
    private static final String HISTORY = "history";

    /** Columns that point without a foreign key. */
    private static final Map<String, String> POINTS = Map.of(
            "moment", HISTORY,
            "clearing", HISTORY,
            "po_taken", HISTORY,
            "reversed_moment", HISTORY,
            "moved_from", "deposit",
            "split_of", "sales_order",
            "order_id", "sales_order");

    /** Whole numbers that point to nothing that is copied. */
    private static final Set<String> PLAIN = Set.of("version", "item_id", "site_id", "message_id", "invoices");

    /**
     * A table with its columns in their sequence.
     *
     * @param key the column that numbers its rows, or null
     * @param points by column, the table to whose rows it points; its own for the key
     */
    record Table(String name, List<String> columns, String key, Map<String, String> points) {

        String select() {
            return "select %s from %s%s%s"
                    .formatted(
                            String.join(", ", columns),
                            name,
                            OWN_OF_CUSTOMERS.containsKey(name) ? " where " + OWN_OF_CUSTOMERS.get(name) : "",
                            key == null ? "" : " order by " + key);
        }

        String insert() {
            return "insert into %s (%s) values (%s)"
                    .formatted(
                            name,
                            String.join(", ", columns),
                            String.join(", ", Collections.nCopies(columns.size(), "?")));
        }
    }

    private final Map<String, Table> tables = new LinkedHashMap<>();

    CopiedTables(Connection connection) throws SQLException {
        var left = new TreeMap<String, Table>();
        var unclassed = new ArrayList<String>();
        for (var name : names(connection)) {
            left.put(lower(name), table(connection, name, unclassed));
        }
        if (!unclassed.isEmpty()) {
            throw new IllegalStateException("of these columns it is not known to what they point: " + unclassed);
        }
        while (!left.isEmpty()) {
            var next = left.values().stream()
                    .filter(table -> table.points().values().stream()
                            .noneMatch(to -> !to.equals(table.name()) && !to.equals(HISTORY) && left.containsKey(to)))
                    .findFirst()
                    .orElseThrow(() -> new IllegalStateException(
                            "tables that point to one another in a circle: " + left.keySet()));
            tables.put(next.name(), left.remove(next.name()));
        }
    }

    private static List<String> names(Connection connection) throws SQLException {
        var names = new ArrayList<String>();
        try (var rows = connection
                .getMetaData()
                .getTables(
                        connection.getCatalog(), connection.getSchema(), "%", new String[] {"TABLE", "BASE TABLE"})) {
            while (rows.next()) {
                if (!SHARED.contains(lower(rows.getString("TABLE_NAME")))) {
                    names.add(rows.getString("TABLE_NAME"));
                }
            }
        }
        return names;
    }

    private static Table table(Connection connection, String name, List<String> unclassed) throws SQLException {
        var references = references(connection, name);
        var columns = new ArrayList<String>();
        var points = new HashMap<String, String>();
        String key = null;
        try (var rows =
                connection.getMetaData().getColumns(connection.getCatalog(), connection.getSchema(), name, "%")) {
            while (rows.next()) {
                var column = lower(rows.getString("COLUMN_NAME"));
                if ("YES".equals(rows.getString("IS_GENERATEDCOLUMN"))) {
                    continue;
                }
                columns.add(column);
                var to = references.getOrDefault(column, POINTS.get(column));
                if (column.equals("id") || (lower(name).equals(HISTORY) && column.equals("moment"))) {
                    key = column;
                    points.put(column, lower(name));
                } else if (to != null && !SHARED.contains(to)) {
                    points.put(column, to);
                } else if (rows.getInt("DATA_TYPE") == Types.BIGINT && !PLAIN.contains(column)) {
                    unclassed.add(lower(name) + "." + column);
                }
            }
        }
        return new Table(lower(name), List.copyOf(columns), key, Map.copyOf(points));
    }

    /** By column, the table that its foreign key points to. */
    private static Map<String, String> references(Connection connection, String name) throws SQLException {
        var references = new HashMap<String, String>();
        try (var rows =
                connection.getMetaData().getImportedKeys(connection.getCatalog(), connection.getSchema(), name)) {
            while (rows.next()) {
                references.put(lower(rows.getString("FKCOLUMN_NAME")), lower(rows.getString("PKTABLE_NAME")));
            }
        }
        return references;
    }

    private static String lower(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    /** In an order in which each may be filled. */
    List<Table> all() {
        return List.copyOf(tables.values());
    }
}
