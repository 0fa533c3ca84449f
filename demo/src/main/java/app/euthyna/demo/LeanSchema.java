package app.euthyna.demo;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
    /** How each is made, by its name. */
    private final Map<String, String> indexes = new LinkedHashMap<>();

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
                        indexes.put(index.group(1), index.group());
                    }
                }
            }
            statement.execute("set referential_integrity false");
            for (var name : List.copyOf(indexes.keySet())) {
                try {
                    statement.execute("drop index " + name);
                } catch (SQLException kept) {
                    if (kept.getErrorCode() != ErrorCode.INDEX_BELONGS_TO_CONSTRAINT_2) {
                        throw kept;
                    }
                    indexes.remove(name);
                }
            }
        }
    }

    void restore() throws SQLException {
        if (!here) {
            return;
        }
        try (var statement = connection.createStatement()) {
            for (var index : indexes.values()) {
                statement.execute(index);
            }
            statement.execute("set referential_integrity true");
        }
    }
}
