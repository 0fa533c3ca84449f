package app.euthyna.e2e;

import app.euthyna.e2e.client.Application;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;

/** A PostgreSQL of its own, of the oldest version that the application runs on. */
final class Postgres implements AutoCloseable {

    private final EmbeddedPostgres server;

    Postgres() throws IOException {
        server = EmbeddedPostgres.builder()
                .setLocaleConfig("locale", "C.UTF-8")
                .setServerConfig("fsync", "off")
                .start();
    }

    /** An empty database. */
    void create(String name) throws SQLException {
        try (var connection = server.getPostgresDatabase().getConnection();
                var statement = connection.createStatement()) {
            statement.execute("create database " + name);
        }
    }

    /** How often it had to end a command because two waited for one another. */
    long deadlocks(String name) throws SQLException {
        try (var connection = server.getPostgresDatabase().getConnection();
                var question =
                        connection.prepareStatement("select deadlocks from pg_stat_database where datname = ?")) {
            question.setString(1, name);
            try (var answer = question.executeQuery()) {
                answer.next();
                return answer.getLong(1);
            }
        }
    }

    /** One more process over a database. */
    Application start(String name, Map<String, String> environment) throws IOException, InterruptedException {
        var all = new HashMap<>(environment);
        all.put("EUTHYNA_DB_USER", "postgres");
        all.put("EUTHYNA_DEMO_ORDERS", "0");
        return Application.start("jdbc:postgresql://localhost:%d/%s".formatted(server.getPort(), name), all);
    }

    @Override
    public void close() throws IOException {
        server.close();
    }
}
