package app.euthyna.server.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Which tables of the company a copy has rows of its own in, and which of their columns point to other such rows. */
final class CopiedTables {

    /** What all copies share, and what passes: settings, people, goods, queues, logs of this one process. */
    static final Set<String> SHARED = Set.of(
            "account",
            "app_user",
            "bank_entry",
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
            "lane_limit",
            "last_look",
            "ledger_head",
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
            "stock_file",
            "user_change");

    /** Rules that are a customer's own in some rows and everybody's in others: only a customer's are copied. */
    static final Map<String, String> OWN_OF_CUSTOMERS = Map.of(
            "approval_rule", "customer_id is not null",
            "price_break", "customer_id is not null",
            "quota", "scope = 'CUSTOMER'");

    /** Columns that point without a foreign key. */
    private static final Map<String, String> POINTS = Map.of(
            "moment", "history",
            "clearing", "history",
            "po_taken", "history",
            "reversed_moment", "history",
            "moved_from", "deposit",
            "split_of", "sales_order",
            "order_id", "sales_order");

    /** Whole numbers that point to nothing that is copied. */
    static final Set<String> PLAIN = Set.of("version", "item_id", "site_id", "message_id");

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
                            String.join(", ", java.util.Collections.nCopies(columns.size(), "?")));
        }
    }

    private final Map<String, Table> tables = new LinkedHashMap<>();
    private final Set<String> unclassed = new LinkedHashSet<>();

    CopiedTables(Connection connection) throws SQLException {
        var references = new HashMap<String, Map<String, String>>();
        var names = new ArrayList<String>();
        var facts = connection.getMetaData();
        var schema = connection.getSchema();
        try (var rows = facts.getTables(connection.getCatalog(), schema, "%", new String[] {"TABLE", "BASE TABLE"})) {
            while (rows.next()) {
                var name = rows.getString("TABLE_NAME");
                if (!SHARED.contains(name.toLowerCase(Locale.ROOT))) {
                    names.add(name);
                }
            }
        }
        for (var name : names) {
            var points = references.computeIfAbsent(name.toLowerCase(Locale.ROOT), n -> new HashMap<>());
            try (var rows = facts.getImportedKeys(connection.getCatalog(), schema, name)) {
                while (rows.next()) {
                    points.put(
                            rows.getString("FKCOLUMN_NAME").toLowerCase(Locale.ROOT),
                            rows.getString("PKTABLE_NAME").toLowerCase(Locale.ROOT));
                }
            }
        }
        var found = new HashMap<String, Table>();
        for (var name : names) {
            var lower = name.toLowerCase(Locale.ROOT);
            var columns = new ArrayList<String>();
            var points = new HashMap<String, String>();
            String key = null;
            try (var rows = facts.getColumns(connection.getCatalog(), schema, name, "%")) {
                while (rows.next()) {
                    var column = rows.getString("COLUMN_NAME").toLowerCase(Locale.ROOT);
                    if ("YES".equals(rows.getString("IS_GENERATEDCOLUMN"))) {
                        continue;
                    }
                    columns.add(column);
                    var to = references.get(lower).getOrDefault(column, POINTS.get(column));
                    if ("YES".equals(rows.getString("IS_AUTOINCREMENT"))) {
                        key = column;
                        points.put(column, lower);
                    } else if (to != null && !SHARED.contains(to)) {
                        points.put(column, to);
                    } else if (rows.getInt("DATA_TYPE") == Types.BIGINT && !PLAIN.contains(column)) {
                        unclassed.add(lower + "." + column);
                    }
                }
            }
            found.put(lower, new Table(lower, List.copyOf(columns), key, Map.copyOf(points)));
        }
        while (!found.isEmpty()) {
            var next = found.values().stream()
                    .filter(table -> table.points().values().stream()
                            .allMatch(to -> to.equals(table.name()) || to.equals("history") || !found.containsKey(to)))
                    .sorted(java.util.Comparator.comparing(Table::name))
                    .toList();
            if (next.isEmpty()) {
                throw new IllegalStateException("tables that point to one another in a circle: " + found.keySet());
            }
            next.forEach(table -> {
                tables.put(table.name(), table);
                found.remove(table.name());
            });
        }
        if (!unclassed.isEmpty()) {
            throw new IllegalStateException("of these columns it is not known to what they point: " + unclassed);
        }
    }

    /** In an order in which each may be filled. */
    List<Table> all() {
        return List.copyOf(tables.values());
    }

    Table named(String name) {
        return tables.get(name);
    }
}
