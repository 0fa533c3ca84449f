package app.euthyna.demo;

import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import javax.sql.DataSource;
import org.springframework.stereotype.Component;

/**
 * The file of the database while the company is founded. Nobody was promised anything yet: commits may be written
 * together, and the room that they leave behind is taken up in the end. For H2 in a file; others are left as they are.
 */
@Component
class FoundingFile {

    private final DataSource database;

    FoundingFile(DataSource database) {
        this.database = database;
    }

    private interface Work {
        void with(Connection connection) throws SQLException;
    }

    void begin() {
        inFile(connection -> run(connection, "set write_delay 2000", "set retention_time 0"));
    }

    /** Closes the file small, whatever grew in it, and lets it be opened anew as its address says. */
    void end() {
        inFile(connection -> {
            run(connection, "set write_delay 0", "set retention_time 45000", "shutdown compact");
            if (database instanceof HikariDataSource pool) {
                pool.getHikariPoolMXBean().softEvictConnections();
            }
        });
    }

    private void inFile(Work work) {
        try (var connection = database.getConnection()) {
            if (connection.getMetaData().getURL().startsWith("jdbc:h2:file:")) {
                work.with(connection);
            }
        } catch (SQLException failed) {
            throw new IllegalStateException("the file of the new company", failed);
        }
    }

    private static void run(Connection connection, String... statements) throws SQLException {
        try (var statement = connection.createStatement()) {
            for (var sql : List.of(statements)) {
                statement.execute(sql);
            }
        }
    }
}
