package app.euthyna.demo;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.demo.CopiedTables.Table;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDate;
import java.time.OffsetDateTime;
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

    /** So many ids the application takes at a time. */
    private static final int AT_A_TIME = 50;

    /** So many copies to a transaction, so many rows to a message. */
    private static final int TOGETHER = 4;

    private static final int ROWS = 2_000;
    private static final String ENTRIES = "journal_entry";

    private final DataSource database;
    private final Company company;
    private final FreshIds fresh;

    DemoMultiplier(DataSource database, Company company, FreshIds fresh) {
        this.fresh = fresh;
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
            var last = copyAll(connection, times);
            schema.restore();
            connection.commit();
            fresh.above(last);
            connection.setAutoCommit(wasCommitting);
        } catch (SQLException failed) {
            throw new IllegalStateException("the demo company could not be multiplied", failed);
        }
    }

    /** Answers the highest id that there can be. */
    private long copyAll(Connection connection, int times) throws SQLException {
        var tables = new CopiedTables(connection);
        var series = series(connection);
        var imprint = imprint(connection, series);
        // ids up to here are given or lie in the blocks that this process took
        var ids = Math.max(figure(connection, fresh.nextOf("row_id")), figure(connection, fresh.nextOf("document_id")));
        var moments = figure(connection, fresh.nextOf("history_moment"));
        var spans = new HashMap<String, Long>();
        for (var table : tables.all()) {
            if (table.key() != null) {
                spans.put(table.name(), table.key().equals("moment") ? moments : ids);
            }
        }
        var lived = new LinkedHashMap<Table, List<Object[]>>();
        for (var table : tables.all()) {
            lived.put(table, lived(connection, table, imprint));
        }
        var all = new ArrayList<Rows>();
        lived.forEach((table, rows) -> all.add(inCopies(table, rows, imprint, spans)));
        var posted = all.stream()
                .filter(rows -> rows.table().name().equals(ENTRIES))
                .findFirst()
                .orElseThrow();
        var entries = new Entries(connection, posted, imprint);
        for (int from = 1; from < times; from += TOGETHER) {
            var until = Math.min(times, from + TOGETHER);
            for (var rows : all) {
                if (rows.table().name().equals(ENTRIES)) {
                    entries.write(connection, from, until);
                } else {
                    write(connection, rows, from, until);
                }
            }
            connection.commit();
        }
        grow(connection, times, series, imprint, ids, moments);
        return ids * times;
    }

    /**
     * Shelves hold and days moved as many times more, quotas of all allow as many times more, and numbers go on behind
     * the last copy.
     */
    private static void grow(
            Connection connection, int times, List<Series> series, Imprint imprint, long ids, long moments)
            throws SQLException {
        run(
                connection,
                "update shelf set on_hand = on_hand * %1$d, reserved = reserved * %1$d, stock_value = stock_value * %1$d"
                        .formatted(times));
        run(connection, "update journal_day set debit = debit * %1$d, credit = credit * %1$d".formatted(times));
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
        run(connection, "alter sequence row_id restart with %d".formatted(ids * times + AT_A_TIME));
        run(connection, "alter sequence document_id restart with %d".formatted(ids * times + 1));
        run(connection, "alter sequence history_moment restart with %d".formatted(moments * times + 1));
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

    /** What was lived through of a table; of its texts it is learned which numbers there are. */
    private static List<Object[]> lived(Connection connection, Table table, Imprint imprint) throws SQLException {
        var rows = new ArrayList<Object[]>();
        each(connection, table.select(), row -> {
            for (int at = 0; at < row.length; at++) {
                if (row[at] instanceof String text && reads(table, at)) {
                    imprint.learn(text);
                }
            }
            rows.add(row);
        });
        return rows;
    }

    /** PO numbers are the customers' own; they have others in each copy. */
    private static boolean reads(Table table, int at) {
        var column = table.columns().get(at);
        return !column.equals("po") && !column.startsWith("po_") && !column.endsWith("hash");
    }

    private static Rows inCopies(Table table, List<Object[]> rows, Imprint imprint, Map<String, Long> spans) {
        var moved = new HashMap<Integer, Long>();
        table.points().forEach((column, to) -> moved.put(table.columns().indexOf(column), spans.get(to)));
        for (var row : rows) {
            for (int at = 0; at < row.length; at++) {
                if (row[at] instanceof String text && reads(table, at)) {
                    row[at] = table.columns().get(at).equals("search_key") ? searchKey(text) : imprint.of(text);
                }
            }
        }
        return new Rows(table, rows, moved);
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
                    fill(insert, rows, row, copy);
                    waiting = add(insert, waiting);
                }
            }
            insert.executeBatch();
        }
    }

    private static void fill(PreparedStatement insert, Rows rows, Object[] row, int copy) throws SQLException {
        for (int at = 0; at < row.length; at++) {
            insert.setObject(at + 1, inCopy(row[at], rows.spans().get(at), copy));
        }
    }

    private static Object inCopy(Object value, Long span, int copy) {
        if (value == null) {
            return null;
        }
        if (span != null) {
            return ((Number) value).longValue() + span * copy;
        }
        return value instanceof Imprint.Text text ? text.in(copy) : value;
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

        /** An entry as it was posted, with what reads otherwise in each copy. */
        private record Posted(Entry entry, Imprint.Text event, Imprint.Text document, Imprint.Text customer) {

            Entry in(int copy, String number) {
                return new Entry(
                        number,
                        entry.date(),
                        event.in(copy),
                        new DocumentRef(entry.document().kind(), document.in(copy)),
                        customer.in(copy),
                        entry.lines());
            }
        }

        private final Rows rows;
        private final List<Posted> posted = new ArrayList<>();
        private long number;
        private String hash;

        Entries(Connection connection, Rows rows, Imprint imprint) throws SQLException {
            this.rows = rows;
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
            each(
                    connection,
                    """
                select e.id, e.number, e.entry_date, e.event, e.document_kind, e.document_number, coalesce(c.code, '')
                from journal_entry e left join customer c on c.id = e.customer_id order by e.id\
                """,
                    row -> posted.add(new Posted(
                            new Entry(
                                    (String) row[1],
                                    (LocalDate) row[2],
                                    (String) row[3],
                                    new DocumentRef(DocumentKind.valueOf((String) row[4]), (String) row[5]),
                                    (String) row[6],
                                    lines.get(((Number) row[0]).longValue())),
                            text(imprint, row[3]),
                            text(imprint, row[5]),
                            text(imprint, row[6]))));
        }

        private static Imprint.Text text(Imprint imprint, Object value) {
            return imprint.of((String) value) instanceof Imprint.Text text ? text : copy -> (String) value;
        }

        void write(Connection connection, int from, int until) throws SQLException {
            var columns = rows.table().columns();
            var numbered = columns.indexOf("number") + 1;
            var before = columns.indexOf("previous_hash") + 1;
            var hashed = columns.indexOf("hash") + 1;
            try (var insert = connection.prepareStatement(rows.table().insert())) {
                var waiting = 0;
                for (int copy = from; copy < until; copy++) {
                    for (int at = 0; at < posted.size(); at++) {
                        var entry = posted.get(at).in(copy, DocumentKind.ENTRY.prefix() + ++number);
                        fill(insert, rows, rows.values().get(at), copy);
                        insert.setString(numbered, entry.number());
                        insert.setString(before, hash);
                        hash = entry.hash(hash);
                        insert.setString(hashed, hash);
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
                        case Types.CLOB, Types.VARCHAR, Types.CHAR -> rows.getString(at + 1);
                        case Types.DATE -> rows.getObject(at + 1, LocalDate.class);
                        case Types.TIMESTAMP_WITH_TIMEZONE -> rows.getObject(at + 1, OffsetDateTime.class);
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
