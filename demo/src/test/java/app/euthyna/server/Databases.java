package app.euthyna.server;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.SQLException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.test.context.DynamicPropertyRegistry;

/** The databases of the tests: H2 in memory, or with -Deuthyna.database=postgres a PostgreSQL of their own. */
final class Databases {

    private static final boolean ON_POSTGRES = "postgres".equals(System.getProperty("euthyna.database"));

    /** The id of the next document, in SQL. */
    static final String NEXT_ID = ON_POSTGRES ? "nextval('document_id')" : "next value for document_id";

    private static final Map<String, String> MADE = new ConcurrentHashMap<>();

    private Databases() {}

    /** Whether the tests run on H2, for what a test asks of its plans. */
    static boolean onH2() {
        return !ON_POSTGRES;
    }

    /** The database of that name, empty for the first who asks. */
    static void named(String name, DynamicPropertyRegistry properties) {
        if (ON_POSTGRES) {
            properties.add("spring.datasource.url", () -> MADE.computeIfAbsent(name, Databases::onPostgres));
            properties.add("spring.datasource.username", () -> "postgres");
        } else {
            properties.add(
                    "spring.datasource.url", () -> "jdbc:h2:mem:" + name + ";DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024");
        }
    }

    private static String onPostgres(String name) {
        try (var connection = Holder.POSTGRES.getPostgresDatabase().getConnection();
                var statement = connection.createStatement()) {
            statement.execute("create database \"" + name + '"');
        } catch (SQLException failed) {
            throw new IllegalStateException("no database " + name, failed);
        }
        return "jdbc:postgresql://localhost:%d/%s".formatted(Holder.POSTGRES.getPort(), name);
    }

    /** Started with the first database, and ended with the tests. */
    private static final class Holder {

        private static final EmbeddedPostgres POSTGRES = start();

        private static EmbeddedPostgres start() {
            try {
                return EmbeddedPostgres.builder()
                        .setLocaleConfig("locale", "C.UTF-8")
                        .setServerConfig("fsync", "off")
                        .start();
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
    }
}
