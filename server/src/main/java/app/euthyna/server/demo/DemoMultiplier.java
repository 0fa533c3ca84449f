package app.euthyna.server.demo;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.demo.CopiedTables.Table;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.stereotype.Component;

/**
 * Makes a large demo company out of a small one: everything that was lived through is copied so many times, each time
 * for other customers and under numbers of its own, with its stock, its history and its entries, which are chained
 * anew. A hundred thousand orders would take hours by the road of the commands; the proof holds over what is copied as
 * over what was entered. For the demo and the benchmark only.
 */
@Component
class DemoMultiplier {

    /** So many copies to a transaction, so many rows to a message. */
    private static final int TOGETHER = 4;

    private static final int ROWS = 2_000;
    private static final String ENTRIES = "journal_entry";

    private final DataSource database;
    private final Company company;

    DemoMultiplier(DataSource database, Company company) {
        this.database = database;
        this.company = company;
    }

    /** Rows that are copied: a value is the same in all copies, moved on by a span, or a text that reads otherwise. */
    private record Rows(Table table, List<Object[]> values, Map<Integer, Long> spans) {}

    private record Series(String code, long count) {

        /** INVOICE-2026 numbers 2026-00001, CREDIT_NOTE-2026 numbers C2026-00001. */
        String year() {
            return (code.startsWith("CREDIT") ? "C" : "") + code.substring(code.lastIndexOf('-') + 1);
        }
    }

    /** Copies all that is there until there are {@code times} of it. */
    void multiply(int times) {
        try (var connection = database.getConnection()) {
            var wasCommitting = connection.getAutoCommit();
            connection.setAutoCommit(false);
            var schema = new LeanSchema(connection);
            schema.strip();
            copyAll(connection, times);
            schema.restore();
            connection.commit();
            connection.setAutoCommit(wasCommitting);
        } catch (SQLException failed) {
            throw new IllegalStateException("the demo company could not be multiplied", failed);
        }
    }

    private void copyAll(Connection connection, int times) throws SQLException {
        var tables = new CopiedTables(connection);
        var series = series(connection);
        var imprint = imprint(connection, series);
        var spans = new HashMap<String, Long>();
        for (var table : tables.all()) {
            if (table.key() != null) {
                spans.put(
                        table.name(),
                        figure(connection, "select coalesce(max(%s), 0) from %s".formatted(table.key(), table.name())));
            }
        }
        for (var table : tables.all()) {
            learn(connection, table, imprint);
        }
        var all = new ArrayList<Rows>();
        for (var table : tables.all()) {
            if (!table.name().equals(ENTRIES)) {
                all.add(read(connection, table, imprint, spans));
            }
        }
        var entries = new Entries(connection, tables.named(ENTRIES), imprint, spans);
        for (int from = 1; from < times; from += TOGETHER) {
            var until = Math.min(times, from + TOGETHER);
            entries.write(connection, from, until);
            for (var rows : all) {
                write(connection, rows, from, until);
            }
            connection.commit();
        }
        grow(connection, times, series, imprint, spans, tables);
    }

    /**
     * Shelves hold as many times more, quotas of all allow as many times more, and numbers go on behind the last copy.
     */
    private static void grow(
            Connection connection,
            int times,
            List<Series> series,
            Imprint imprint,
            Map<String, Long> spans,
            CopiedTables tables)
            throws SQLException {
        run(
                connection,
                "update shelf set on_hand = on_hand * %1$d, reserved = reserved * %1$d, stock_value = stock_value * %1$d"
                        .formatted(times));
        run(connection, "update quota set quantity = quantity * %d where scope <> 'CUSTOMER'".formatted(times));
        for (var one : series) {
            run(
                    connection,
                    "update number_series set next_value = %d where series = '%s'"
                            .formatted(one.count() * times + 1, one.code()));
        }
        for (var kind : DocumentKind.values()) {
            if (kind != DocumentKind.INVOICE && kind != DocumentKind.CREDIT_NOTE && kind != DocumentKind.ENTRY) {
                run(
                        connection,
                        "alter sequence %s_number restart with %d"
                                .formatted(
                                        kind.name().toLowerCase(Locale.ROOT),
                                        Imprint.FIRST + 1 + imprint.span(kind) * times));
            }
        }
        for (var table : tables.all()) {
            if (table.key() != null) {
                run(
                        connection,
                        "alter table %s alter column %s restart with %d"
                                .formatted(table.name(), table.key(), 1 + spans.get(table.name()) * times));
            }
        }
    }

    private static Imprint imprint(Connection connection, List<Series> series) throws SQLException {
        var customers = new LinkedHashMap<String, String>();
        each(connection, "select code, name from customer", row -> customers.put((String) row[0], (String) row[1]));
        var years = new HashMap<String, Long>();
        series.forEach(one -> years.put(one.year(), one.count()));
        return new Imprint(customers, years);
    }

    private static List<Series> series(Connection connection) throws SQLException {
        var series = new ArrayList<Series>();
        each(
                connection,
                "select series, next_value from number_series",
                row -> series.add(new Series((String) row[0], ((Number) row[1]).longValue() - 1)));
        return series;
    }

    private static void learn(Connection connection, Table table, Imprint imprint) throws SQLException {
        each(connection, table.select(), row -> {
            for (int at = 0; at < row.length; at++) {
                if (row[at] instanceof String text && reads(table, at)) {
                    imprint.learn(text);
                }
            }
        });
    }

    /** PO numbers are the customers' own; they have others in each copy. */
    private static boolean reads(Table table, int at) {
        var column = table.columns().get(at);
        return !column.equals("po") && !column.startsWith("po_") && !column.endsWith("hash");
    }

    private static Rows read(Connection connection, Table table, Imprint imprint, Map<String, Long> spans)
            throws SQLException {
        var moved = new HashMap<Integer, Long>();
        table.points().forEach((column, to) -> moved.put(table.columns().indexOf(column), spans.get(to)));
        var values = new ArrayList<Object[]>();
        each(connection, table.select(), row -> {
            for (int at = 0; at < row.length; at++) {
                if (row[at] instanceof String text && reads(table, at)) {
                    row[at] = table.name().equals("customer")
                                    && table.columns().get(at).equals("search_key")
                            ? searchKey(text)
                            : imprint.of(text);
                }
            }
            values.add(row);
        });
        return new Rows(table, values, moved);
    }

    /** As a customer is found: the name, and the number of the copy. */
    private static Imprint.Text searchKey(String text) {
        return copy -> text + " " + copy;
    }

    private static void write(Connection connection, Rows rows, int from, int until) throws SQLException {
        if (rows.values().isEmpty()) {
            return;
        }
        try (var insert = connection.prepareStatement(rows.table().insert())) {
            var waiting = 0;
            for (int copy = from; copy < until; copy++) {
                for (var row : rows.values()) {
                    for (int at = 0; at < row.length; at++) {
                        insert.setObject(at + 1, inCopy(row[at], rows.spans().get(at), copy));
                    }
                    waiting = add(insert, waiting);
                }
            }
            insert.executeBatch();
        }
    }

    private static Object inCopy(Object value, Long span, int copy) {
        return value == null
                ? null
                : span != null
                        ? (Object) (((Number) value).longValue() + span * copy)
                        : value instanceof Imprint.Text text ? text.in(copy) : value;
    }

    private static int add(PreparedStatement insert, int waiting) throws SQLException {
        insert.addBatch();
        if (waiting + 1 < ROWS) {
            return waiting + 1;
        }
        insert.executeBatch();
        return 0;
    }

    /** Entries are chained by hash, so they can't be copied: each is made anew behind the last. */
    private final class Entries {

        private final Table table;
        private final Rows rows;
        private final List<Entry> entries = new ArrayList<>();
        private final List<Imprint.Text[]> texts = new ArrayList<>();
        private long number;
        private String hash;

        Entries(Connection connection, Table table, Imprint imprint, Map<String, Long> spans) throws SQLException {
            this.table = table;
            this.rows = read(connection, table, imprint, spans);
            each(connection, "select last_number, last_hash from ledger_head where id = 1", row -> {
                number = ((Number) row[0]).longValue();
                hash = (String) row[1];
            });
            var lines = new HashMap<Long, List<EntryLine>>();
            each(
                    connection,
                    "select entry_id, role, account, amount from journal_line order by entry_id, line_no",
                    row -> lines.computeIfAbsent(((Number) row[0]).longValue(), id -> new ArrayList<>())
                            .add(new EntryLine(
                                    AccountRole.valueOf(((String) row[1]).toUpperCase(Locale.ROOT)),
                                    (String) row[2],
                                    company.money((BigDecimal) row[3]))));
            each(connection, """
                select e.id, e.number, e.entry_date, e.event, e.document_kind, e.document_number, coalesce(c.code, '')
                from journal_entry e left join customer c on c.id = e.customer_id order by e.id\
                """, row -> {
                entries.add(new Entry(
                        (String) row[1],
                        (LocalDate) row[2],
                        (String) row[3],
                        new DocumentRef(DocumentKind.valueOf((String) row[4]), (String) row[5]),
                        (String) row[6],
                        lines.get(((Number) row[0]).longValue())));
                texts.add(new Imprint.Text[] {text(imprint, row[3]), text(imprint, row[5]), text(imprint, row[6])});
            });
        }

        private static Imprint.Text text(Imprint imprint, Object value) {
            return imprint.of((String) value) instanceof Imprint.Text text ? text : copy -> (String) value;
        }

        void write(Connection connection, int from, int until) throws SQLException {
            var numbered = table.columns().indexOf("number");
            var before = table.columns().indexOf("previous_hash");
            var hashed = table.columns().indexOf("hash");
            try (var insert = connection.prepareStatement(table.insert())) {
                var waiting = 0;
                for (int copy = from; copy < until; copy++) {
                    for (int at = 0; at < entries.size(); at++) {
                        var was = entries.get(at);
                        var text = texts.get(at);
                        var entry = new Entry(
                                DocumentKind.ENTRY.prefix() + ++number,
                                was.date(),
                                text[0].in(copy),
                                new DocumentRef(was.document().kind(), text[1].in(copy)),
                                text[2].in(copy),
                                was.lines());
                        var next = entry.hash(hash);
                        var row = rows.values().get(at);
                        for (int column = 0; column < row.length; column++) {
                            insert.setObject(
                                    column + 1,
                                    column == numbered
                                            ? entry.number()
                                            : column == before
                                                    ? hash
                                                    : column == hashed
                                                            ? next
                                                            : inCopy(
                                                                    row[column],
                                                                    rows.spans().get(column),
                                                                    copy));
                        }
                        hash = next;
                        waiting = add(insert, waiting);
                    }
                }
                insert.executeBatch();
            }
            try (var head =
                    connection.prepareStatement("update ledger_head set last_number = ?, last_hash = ? where id = 1")) {
                head.setLong(1, number);
                head.setString(2, hash);
                head.executeUpdate();
            }
        }
    }

    private interface Row {
        void take(Object[] values);
    }

    private static void each(Connection connection, String sql, Row taker) throws SQLException {
        try (var statement = connection.prepareStatement(sql);
                var rows = statement.executeQuery()) {
            var types = rows.getMetaData();
            while (rows.next()) {
                var values = new Object[types.getColumnCount()];
                for (int at = 0; at < values.length; at++) {
                    values[at] = switch (types.getColumnType(at + 1)) {
                        case java.sql.Types.CLOB, java.sql.Types.VARCHAR, java.sql.Types.CHAR -> rows.getString(at + 1);
                        case java.sql.Types.DATE -> rows.getObject(at + 1, LocalDate.class);
                        case java.sql.Types.TIMESTAMP_WITH_TIMEZONE ->
                            rows.getObject(at + 1, java.time.OffsetDateTime.class);
                        default -> rows.getObject(at + 1);
                    };
                }
                taker.take(values);
            }
        }
    }

    private static long figure(Connection connection, String sql) throws SQLException {
        var found = new long[1];
        each(connection, sql, row -> found[0] = ((Number) row[0]).longValue());
        return found[0];
    }

    private static void run(Connection connection, String sql) throws SQLException {
        try (var statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
