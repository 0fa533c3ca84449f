package app.euthyna.e2e.bench;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;

/**
 * The same work by bare JDBC: as many rows written to the same tables with their indexes and checks, as many changed,
 * as many questions asked by key, in one transaction. No program on this database can be faster that does what the
 * application does; what lies between is ours.
 */
final class Floor {

    private final Connection connection;
    private final Map<String, String> keys;
    private final Map<String, Long> highest;
    private final Map<String, Facts> facts = new HashMap<>();
    private final Map<String, List<Object[]>> known = new HashMap<>();
    private final Random random = new Random(11);
    private long fresh;

    /** What is known of a table. */
    private record Facts(List<String> key, List<List<String>> unique, Map<String, String> points, String figure) {}

    Floor(Connection connection) throws SQLException {
        this.connection = connection;
        this.keys = Work.keys(connection);
        this.highest = Work.highest(connection);
        connection.setAutoCommit(false);
    }

    /**
     * Does it once, and commits.
     *
     * @param sequence of the tables that it writes to: {@link #sequence}
     */
    void does(Work work, List<String> sequence) throws SQLException {
        for (var read : work.read().entrySet()) {
            for (int at = 0; at < read.getValue(); at++) {
                ask(read.getKey());
            }
        }
        var given = new HashMap<String, Long>();
        for (var table : sequence) {
            for (var row : work.written().get(table)) {
                insert(table, row, given);
            }
        }
        for (var update : work.updated().entrySet()) {
            for (int at = 0; at < update.getValue(); at++) {
                change(update.getKey());
            }
        }
        connection.commit();
    }

    /** The tables that work writes to, those that others point to first. */
    List<String> sequence(Work work) throws SQLException {
        var tables = work.written().keySet();
        var left = new LinkedHashMap<String, Set<String>>();
        for (var table : tables) {
            var to = new HashSet<>(facts(table).points().values());
            to.retainAll(tables);
            to.remove(table);
            left.put(table, to);
        }
        var sequence = new ArrayList<String>();
        while (!left.isEmpty()) {
            var next = left.entrySet().stream()
                    .filter(e -> sequence.containsAll(e.getValue()))
                    .findFirst()
                    .orElseThrow()
                    .getKey();
            sequence.add(next);
            left.remove(next);
        }
        return sequence;
    }

    private void insert(String table, Map<String, Object> like, Map<String, Long> given) throws SQLException {
        var facts = facts(table);
        var key = keys.get(table);
        var row = new LinkedHashMap<>(like);
        if (key != null) {
            var id = highest.merge(table, 1L, Long::sum);
            given.put(table + like.get(key), id);
            given.put(table, id);
            row.put(key, id);
        }
        facts.points().forEach((column, to) -> {
            var other = given.getOrDefault(to + like.get(column), key == null ? given.get(to) : null);
            if (other != null) {
                row.put(column, other);
            }
        });
        if (key == null) {
            // it may be written anew in its place
            execute(
                    "delete from %s where %s".formatted(table, where(facts)),
                    facts.key().stream().map(row::get).toArray());
        } else {
            for (var index : facts.unique()) {
                makeUnique(index, row, like);
            }
        }
        execute(
                "insert into %s (%s) values (%s)"
                        .formatted(
                                table,
                                String.join(", ", row.keySet()),
                                String.join(", ", Collections.nCopies(row.size(), "?"))),
                row.values().toArray());
    }

    /** No other row has these values: a number or a word of its own, where no other column makes it so. */
    private void makeUnique(List<String> index, Map<String, Object> row, Map<String, Object> like) {
        if (index.stream()
                .anyMatch(column -> row.get(column) == null || !row.get(column).equals(like.get(column)))) {
            return;
        }
        for (var column : index) {
            if (row.get(column) instanceof String) {
                row.put(column, "F" + ++fresh);
                return;
            }
        }
        row.put(index.get(index.size() - 1), (int) ++fresh);
    }

    private void change(String table) throws SQLException {
        var facts = facts(table);
        if (facts.figure() == null || facts.key().isEmpty()) {
            return;
        }
        var some = some(table, facts);
        if (some == null) {
            return;
        }
        execute("update %1$s set %2$s = %2$s + 0 where %3$s".formatted(table, facts.figure(), where(facts)), some);
    }

    private void ask(String table) throws SQLException {
        var facts = facts(table);
        if (facts.key().isEmpty()) {
            return;
        }
        var some = some(table, facts);
        if (some == null) {
            return;
        }
        try (var statement = prepared("select * from %s where %s".formatted(table, where(facts)), some);
                var rows = statement.executeQuery()) {
            while (rows.next()) {
                rows.getObject(1);
            }
        }
    }

    private void execute(String sql, Object... values) throws SQLException {
        try (var statement = prepared(sql, values)) {
            statement.executeUpdate();
        }
    }

    private PreparedStatement prepared(String sql, Object... values) throws SQLException {
        var statement = connection.prepareStatement(sql);
        for (int at = 0; at < values.length; at++) {
            statement.setObject(at + 1, values[at]);
        }
        return statement;
    }

    private static String where(Facts facts) {
        return String.join(
                " and ", facts.key().stream().map(column -> column + " = ?").toList());
    }

    /** The key of one of the rows that are there. */
    private Object[] some(String table, Facts facts) throws SQLException {
        var rows = known.get(table);
        if (rows == null) {
            rows = new ArrayList<>();
            try (var statement = connection.createStatement();
                    var found = statement.executeQuery("select %s from %s fetch first 500 rows only"
                            .formatted(String.join(", ", facts.key()), table))) {
                while (found.next()) {
                    var key = new Object[facts.key().size()];
                    for (int at = 0; at < key.length; at++) {
                        key[at] = found.getObject(at + 1);
                    }
                    rows.add(key);
                }
            }
            known.put(table, rows);
        }
        return rows.isEmpty() ? null : rows.get(random.nextInt(rows.size()));
    }

    private Facts facts(String table) throws SQLException {
        var found = facts.get(table);
        if (found == null) {
            found = read(table.toUpperCase(Locale.ROOT));
            facts.put(table, found);
        }
        return found;
    }

    private Facts read(String table) throws SQLException {
        var meta = connection.getMetaData();
        var catalog = connection.getCatalog();
        var key = new ArrayList<String>();
        try (var rows = meta.getPrimaryKeys(catalog, "PUBLIC", table)) {
            while (rows.next()) {
                key.add(rows.getString("COLUMN_NAME").toLowerCase(Locale.ROOT));
            }
        }
        var unique = new LinkedHashMap<String, List<String>>();
        try (var rows = meta.getIndexInfo(catalog, "PUBLIC", table, true, true)) {
            while (rows.next()) {
                unique.computeIfAbsent(rows.getString("INDEX_NAME"), index -> new ArrayList<>())
                        .add(rows.getString("COLUMN_NAME").toLowerCase(Locale.ROOT));
            }
        }
        var indexed = new HashSet<String>();
        unique.values().forEach(indexed::addAll);
        var points = new HashMap<String, String>();
        try (var rows = meta.getImportedKeys(catalog, "PUBLIC", table)) {
            while (rows.next()) {
                points.put(
                        rows.getString("FKCOLUMN_NAME").toLowerCase(Locale.ROOT),
                        rows.getString("PKTABLE_NAME").toLowerCase(Locale.ROOT));
            }
        }
        String figure = null;
        try (var rows = meta.getColumns(catalog, "PUBLIC", table, "%")) {
            while (rows.next()) {
                var column = rows.getString("COLUMN_NAME").toLowerCase(Locale.ROOT);
                var type = rows.getInt("DATA_TYPE");
                if ((type == Types.NUMERIC || type == Types.BIGINT)
                        && !key.contains(column)
                        && !indexed.contains(column)
                        && !points.containsKey(column)) {
                    figure = column;
                }
            }
        }
        return new Facts(key, List.copyOf(unique.values()), points, figure);
    }
}
