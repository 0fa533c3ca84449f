package app.euthyna.server.proof;

import app.euthyna.core.proof.Statement;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.May;
import jakarta.servlet.http.HttpServletRequest;
import java.math.BigDecimal;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.ObjectMapper;

/** The proof over HTTP, and the seal. */
@RestController
@RequestMapping("/api/proofs")
class ProofController {

    private final BooksProof books;
    private final ChainProver chains;
    private final Commands commands;
    private final JdbcClient jdbc;
    private final ObjectMapper json;
    private final Clock clock;

    ProofController(BooksProof books, ChainProver chains, Commands commands, JdbcClient jdbc, ObjectMapper json, Clock clock) {
        this.books = books;
        this.chains = chains;
        this.commands = commands;
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    record FailureView(String document, BigDecimal expected, BigDecimal actual, BigDecimal difference, String sentence) {
    }

    record StatementView(int no, String words, boolean holds, long examined, String lookedAt, BigDecimal documents, BigDecimal ledger,
            BigDecimal difference, List<FailureView> failures) {
    }

    record StatementsView(List<StatementView> statements) {
    }

    /** A run over the whole books; everything but the failing count is empty where none was made yet. */
    record RunView(Instant at, long millis, String by, int failing, List<StatementView> statements) {
    }

    @May.Prove
    @PostMapping
    RunView run(HttpServletRequest http) {
        return commands.run(http, "proof", RunView.class, context -> {
            var started = clock.instant();
            var statements = books.run().stream().map(ProofController::view).toList();
            var run = new RunView(started, clock.instant().toEpochMilli() - started.toEpochMilli(), context.person().username(),
                    (int) statements.stream().filter(s -> !s.holds()).count(), statements);
            jdbc.sql("insert into proof_run (started_at, millis, run_by, failing, result) values (?, ?, ?, ?, ?)")
                    .params(Timestamp.from(started), run.millis(), run.by(), run.failing(), json.writeValueAsString(run)).update();
            return run;
        });
    }

    /** The newest run: what the seal shows. */
    @GetMapping("/latest")
    RunView latest() {
        Optional<String> result = jdbc.sql("select result from proof_run order by id desc fetch first 1 rows only").query(String.class).optional();
        return result.map(stored -> json.readValue(stored, RunView.class)).orElse(new RunView(null, 0, "", 0, List.of()));
    }

    /** The statements over the chain of a document. */
    @GetMapping("/{kind}/{number}")
    @Transactional(readOnly = true)
    StatementsView chain(@PathVariable DocumentKind kind, @PathVariable String number) {
        return new StatementsView(chains.prove(kind, number).stream().map(ProofController::view).toList());
    }

    private static StatementView view(Statement.Result result) {
        var difference = result.documents() == null ? null : result.ledger().subtract(result.documents());
        return new StatementView(result.statement().no(), result.statement().words(), result.holds(), result.examined(),
                result.statement().lookedAt(), result.documents(), result.ledger(), difference, result.failures().stream()
                        .map(f -> new FailureView(f.document(), f.expected(), f.actual(), f.difference(), f.sentence())).toList());
    }
}
