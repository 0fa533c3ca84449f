package db.migration;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.Map;
import org.flywaydb.core.api.migration.BaseJavaMigration;
import org.flywaydb.core.api.migration.Context;

/**
 * Ids come from sequences instead of being given by each table: rows can be inserted together, and nobody asks the
 * database afterwards. The rows beneath documents take theirs fifty at a time. Documents and events take theirs one at
 * a time, since they tell what came first, whichever of several servers wrote it; so does the history, from a sequence
 * of its own. In Java because no portable SQL sets a sequence to what a table holds.
 */
@SuppressWarnings("checkstyle:TypeName")
public class V15__Ids_from_sequences extends BaseJavaMigration {

    private static final int AT_A_TIME = 50;

    @Override
    public void migrate(Context context) throws SQLException {
        var connection = context.getConnection();
        var last = 0L;
        for (var column : identities(connection).entrySet()) {
            var table = column.getKey();
            var key = column.getValue();
            var highest = highest(connection, table, key);
            run(connection, "alter table %s alter column %s drop identity".formatted(table, key));
            if (table.equalsIgnoreCase("history")) {
                run(connection, "create sequence history_moment start with %d".formatted(highest + 1));
            } else {
                last = Math.max(last, highest);
            }
        }
        run(connection, "create sequence document_id start with %d".formatted(last + 1));
        run(connection, "create sequence row_id start with %d increment by %d".formatted(last + AT_A_TIME, AT_A_TIME));
    }

    private static Map<String, String> identities(Connection connection) throws SQLException {
        var columns = new LinkedHashMap<String, String>();
        try (var statement = connection.createStatement();
                var rows = statement.executeQuery("select table_name, column_name from information_schema.columns"
                        + " where is_identity = 'YES' and table_schema = current_schema order by table_name")) {
            while (rows.next()) {
                columns.put(rows.getString(1), rows.getString(2));
            }
        }
        return columns;
    }

    private static long highest(Connection connection, String table, String key) throws SQLException {
        try (var statement = connection.createStatement();
                var rows = statement.executeQuery("select coalesce(max(%s), 0) from %s".formatted(key, table))) {
            rows.next();
            return rows.getLong(1);
        }
    }

    private static void run(Connection connection, String sql) throws SQLException {
        try (var statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
