package db.migration;

import app.euthyna.core.order.Details;
import app.euthyna.server.platform.Records;
import java.sql.Connection;
import java.sql.SQLException;
import org.flywaydb.core.api.migration.BaseJavaMigration;
import org.flywaydb.core.api.migration.Context;

/**
 * Where the goods of an order go has a column of its own, by which lists are filtered. In Java because it stands in the
 * details of older orders, which no portable SQL can read.
 */
@SuppressWarnings("checkstyle:TypeName")
public class V26__Ship_to_of_orders extends BaseJavaMigration {

    private static final int TOGETHER = 1_000;

    @Override
    public void migrate(Context context) throws SQLException {
        var connection = context.getConnection();
        try (var statement = connection.createStatement()) {
            statement.execute("alter table sales_order add column ship_to varchar(600) default '' not null");
        }
        var last = 0L;
        while (last >= 0) {
            last = fill(connection, last);
        }
    }

    /** Fills those behind an order; the last of them, or less than nothing when there are no more. */
    private static long fill(Connection connection, long after) throws SQLException {
        var last = -1L;
        try (var read = connection.prepareStatement("select id, details from sales_order"
                        + " where id > ? and details is not null order by id fetch first " + TOGETHER + " rows only");
                var write = connection.prepareStatement("update sales_order set ship_to = ? where id = ?")) {
            read.setLong(1, after);
            try (var rows = read.executeQuery()) {
                while (rows.next()) {
                    last = rows.getLong(1);
                    var words = Records.read(rows.getString(2), Details.class)
                            .shipTo()
                            .words();
                    if (!words.isEmpty()) {
                        write.setString(1, words);
                        write.setLong(2, last);
                        write.addBatch();
                    }
                }
            }
            write.executeBatch();
        }
        return last;
    }
}
