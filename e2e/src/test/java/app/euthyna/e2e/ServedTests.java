package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A company that is served, not shown: who can open its books, and what of the demo is not there. */
class ServedTests {

    private static final String PASSWORD = "four grey herons";

    private static void refused(String code, Runnable request) {
        assertThatThrownBy(request::run)
                .isInstanceOfSatisfying(
                        Api.Refused.class, refusal -> assertThat(refusal.code()).isEqualTo(code));
    }

    @Test
    void booksAreForTheirOwnerAndStandInsAnswerNobody() throws Exception {
        var books = Files.createTempDirectory("served").resolve("books");
        try (var application = Application.serve(books, PASSWORD)) {
            for (var file : List.of("books.mv.db", "books.key")) {
                assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(books.resolveSibling(file))))
                        .as(file)
                        .isEqualTo("rw-------");
            }
            for (var user : List.of("lead", "controller", "clerk", "admin")) {
                refused("wrong-password", () -> Api.signIn(application.url(), user, user));
            }
            var admin = Api.signIn(application.url(), "admin", PASSWORD);
            admin.post(
                    "/api/users",
                    Map.of("username", "mo", "displayName", "Mo", "role", "LEAD", "password", "two brown otters"));
            var lead = Api.signIn(application.url(), "mo", "two brown otters");
            refused("not-found", () -> lead.put("/api/simulated-payment-service", Map.of("behaviour", "PAYS")));
            refused("not-found", () -> lead.get("/api/demo/bank-statement"));
        }
        assertThatThrownBy(() -> DriverManager.getConnection("jdbc:h2:file:" + books, "sa", ""))
                .isInstanceOf(SQLException.class)
                .hasMessageContaining("Wrong user name or password");
    }

    @Test
    void theDemoCompanyIsNotServed() throws Exception {
        var books = Path.of(Files.createTempDirectory("demo").toString(), "books");
        Application.start("jdbc:h2:file:" + books, 0).close();
        assertThatThrownBy(() -> Application.serve(books, PASSWORD).close())
                .hasMessageContaining("This is the database of the demo company, whose passwords are known.");
    }
}
