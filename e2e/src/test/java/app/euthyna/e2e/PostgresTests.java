package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assumptions.assumeThat;

import app.euthyna.e2e.cases.CaseRunner;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** The application on PostgreSQL: the worked cases, and two processes over one database. */
class PostgresTests {

    private static final Path OWN_CASES = Path.of("cases");
    private static final Path SHARED_CASES = Path.of("../../shared/cases");

    @Test
    void workedCasesPass() throws Exception {
        try (var postgres = new Postgres()) {
            postgres.create("cases");
            try (var application = postgres.start("cases", Map.of("EUTHYNA_SETTABLE_CLOCK", "true"))) {
                assertThat(CaseRunner.run(OWN_CASES, application.url(), Set.of()))
                        .isTrue();
            }
        }
    }

    /** With {@code ./euthyna check --postgres}: they take half a minute. */
    @Test
    void sharedCasesPass() throws Exception {
        assumeThat(Boolean.getBoolean("postgres.all")).isTrue();
        assumeThat(Files.isDirectory(SHARED_CASES)).isTrue();
        try (var postgres = new Postgres()) {
            postgres.create("cases");
            try (var application = postgres.start("cases", Map.of("EUTHYNA_SETTABLE_CLOCK", "true"))) {
                assertThat(CaseRunner.run(
                                SHARED_CASES, application.url(), CaseRunner.waiting(OWN_CASES.resolve("waiting.txt"))))
                        .isTrue();
            }
        }
    }

    @Test
    void twoProcessesOverOneDatabaseLeaveBooksThatAgree() throws Exception {
        try (var postgres = new Postgres()) {
            postgres.create("shared");
            try (var one = postgres.start("shared", Map.of());
                    var other = postgres.start("shared", Map.of())) {
                ManyAtOnce.onTheSameOrders(List.of(one.url(), other.url()));
                assertThat(postgres.deadlocks("shared")).isZero();
            }
        }
    }
}
