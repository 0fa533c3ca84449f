package app.euthyna.server.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.h2.api.ErrorCode;

/**
 * The tables without their indexes and without the checks between them while very many rows are written: making an
 * index last takes a fraction of keeping it up row by row. What was taken off is put back as it was. On H2 only;
 * elsewhere nothing is taken off.
 */
final class LeanSchema {

    private static final Pattern INDEX = Pattern.compile(
            "CREATE (?:UNIQUE )?(?:NULLS (?:ALL )?(?:NOT )?DISTINCT )?INDEX (\\S+) ON .*", Pattern.DOTALL);

    private final Connection connection;
    private final List<String> indexes = new ArrayList<>();
    private final boolean here;

    LeanSchema(Connection connection) throws SQLException {
        this.connection = connection;
        this.here = connection.getMetaData().getDatabaseProductName().equals("H2");
    }

    void strip() throws SQLException {
        if (!here) {
            return;
        }
        try (var statement = connection.createStatement()) {
            try (var script = statement.executeQuery("script nodata nopasswords nosettings")) {
                while (script.next()) {
                    var index = INDEX.matcher(script.getString(1).strip());
                    if (index.matches()) {
                        indexes.add(index.group());
                    }
                }
            }
            statement.execute("set referential_integrity false");
            for (var each = indexes.iterator(); each.hasNext(); ) {
                var name = INDEX.matcher(each.next());
                try {
                    if (name.matches()) {
                        statement.execute("drop index " + name.group(1));
                    }
                } catch (SQLException kept) {
                    if (kept.getErrorCode() != ErrorCode.INDEX_BELONGS_TO_CONSTRAINT_2) {
                        throw kept;
                    }
                    each.remove();
                }
            }
        }
    }

    void restore() throws SQLException {
        if (!here) {
            return;
        }
        try (var statement = connection.createStatement()) {
            for (var index : indexes) {
                statement.execute(index);
            }
            statement.execute("set referential_integrity true");
        }
    }
}
