package app.euthyna.e2e.bench;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;

/**
 * What a command did to the database: the rows that it wrote, how many it changed by table, and from which tables it
 * read. Taken down while the application carries the command out once more.
 *
 * @param written by table, each row by column; those without a number of their own as others of their table are
 * @param updated by table, how many rows
 * @param read by table, how many different questions
 */
record Work(Map<String, List<Map<String, Object>>> written, Map<String, Integer> updated, Map<String, Integer> read) {

    private static final Pattern INSERT = statement("insert into");
    private static final Pattern UPDATE = statement("(?:update|delete from)");
    private static final Pattern SELECT =
            Pattern.compile("select .*?\\bfrom \"?(\\w+)\"?.*", Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
    /** Whoever is signed in, not what is done. */
    private static final Pattern SESSION = Pattern.compile("spring_session\\w*", Pattern.CASE_INSENSITIVE);

    private static Pattern statement(String begin) {
        return Pattern.compile(
                begin + "\\s+(?:\"?public\"?\\.)?\"?(\\w+)\"?.*", Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
    }

    static Work of(Connection connection, Runnable command) throws SQLException {
        var before = highest(connection);
        try (var statement = connection.createStatement()) {
            statement.execute("set query_statistics_max_entries 2000");
            statement.execute("set query_statistics false");
            statement.execute("set query_statistics true");
            command.run();
            var inserted = new TreeMap<String, Integer>();
            var updated = new TreeMap<String, Integer>();
            var read = new TreeMap<String, Integer>();
            try (var rows = statement.executeQuery(
                    "select sql_statement, execution_count from information_schema.query_statistics")) {
                while (rows.next()) {
                    var sql = rows.getString(1).strip();
                    count(INSERT, sql, rows.getInt(2), inserted);
                    count(UPDATE, sql, rows.getInt(2), updated);
                    count(SELECT, sql, 1, read);
                }
            }
            statement.execute("set query_statistics false");
            var written = written(connection, before);
            for (var table : inserted.entrySet()) {
                if (!written.containsKey(table.getKey())) {
                    written.put(table.getKey(), alike(connection, table.getKey(), table.getValue()));
                }
            }
            return new Work(written, updated, read);
        }
    }

    private static void count(Pattern pattern, String sql, int times, Map<String, Integer> into) {
        var matched = pattern.matcher(sql);
        if (matched.matches()) {
            var table = matched.group(1).toLowerCase(Locale.ROOT);
            if (!SESSION.matcher(table).matches()
                    && !sql.toLowerCase(Locale.ROOT).contains("information_schema")) {
                into.merge(table, times, Integer::sum);
            }
        }
    }

    /** The highest number of each table whose rows are numbered. */
    static Map<String, Long> highest(Connection connection) throws SQLException {
        var highest = new TreeMap<String, Long>();
        for (var key : keys(connection).entrySet()) {
            try (var statement = connection.createStatement();
                    var rows = statement.executeQuery(
                            "select coalesce(max(%s), 0) from %s".formatted(key.getValue(), key.getKey()))) {
                rows.next();
                highest.put(key.getKey(), rows.getLong(1));
            }
        }
        return highest;
    }

    /** The column that numbers the rows, by table. */
    static Map<String, String> keys(Connection connection) throws SQLException {
        var keys = new HashMap<String, String>();
        try (var columns = connection.getMetaData().getColumns(connection.getCatalog(), "PUBLIC", "%", "%")) {
            while (columns.next()) {
                var table = columns.getString("TABLE_NAME").toLowerCase(Locale.ROOT);
                var column = columns.getString("COLUMN_NAME").toLowerCase(Locale.ROOT);
                if (column.equals("id") || (column.equals("moment") && table.equals("history"))) {
                    keys.put(table, column);
                }
            }
        }
        return keys;
    }

    private static Map<String, List<Map<String, Object>>> written(Connection connection, Map<String, Long> before)
            throws SQLException {
        var written = new LinkedHashMap<String, List<Map<String, Object>>>();
        for (var key : keys(connection).entrySet()) {
            var table = key.getKey();
            try (var statement = connection.prepareStatement(
                    "select * from %s where %s > ? order by %2$s".formatted(table, key.getValue()))) {
                statement.setLong(1, before.get(table));
                try (var rows = statement.executeQuery()) {
                    var found = rows(rows);
                    if (!found.isEmpty()) {
                        written.put(table, found);
                    }
                }
            }
        }
        return written;
    }

    /** So many times a row that is there, of a table whose rows have no number of their own. */
    private static List<Map<String, Object>> alike(Connection connection, String table, int times) throws SQLException {
        try (var statement = connection.createStatement();
                var rows = statement.executeQuery("select * from %s fetch first 1 rows only".formatted(table))) {
            var one = rows(rows);
            return one.isEmpty() ? List.of() : Collections.nCopies(times, one.get(0));
        }
    }

    private static List<Map<String, Object>> rows(ResultSet rows) throws SQLException {
        var all = new ArrayList<Map<String, Object>>();
        var facts = rows.getMetaData();
        while (rows.next()) {
            var row = new LinkedHashMap<String, Object>();
            for (int at = 1; at <= facts.getColumnCount(); at++) {
                row.put(facts.getColumnName(at).toLowerCase(Locale.ROOT), rows.getObject(at));
            }
            all.add(row);
        }
        return all;
    }

    /** In a line: so many rows written, changed, and questions asked. */
    String words() {
        var rows = written.values().stream().mapToInt(List::size).sum();
        return "%d rows written, %d changed, %d questions".formatted(rows, sum(updated), sum(read));
    }

    private static int sum(Map<String, Integer> counts) {
        return counts.values().stream().mapToInt(Integer::intValue).sum();
    }
}
