package app.euthyna.server.proof;

import app.euthyna.core.proof.Statement;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.ObjectMapper;

/**
 * Runs of the proof over the whole books, kept. A run looks at one moment of the books: what is posted meanwhile does
 * not come into it. A new company is proved once when it opens, so that the seal says something from the start.
 */
@Component
@Order(2)
class ProofRuns implements ApplicationRunner {

    private final BooksProof books;
    private final TransactionTemplate transactions;
    private final TransactionTemplate moment;
    private final ProofQueries queries;
    private final ObjectMapper json;
    private final Clock clock;

    ProofRuns(
            BooksProof books, TransactionTemplate transactions, ProofQueries queries, ObjectMapper json, Clock clock) {
        this.books = books;
        this.transactions = transactions;
        this.moment = new TransactionTemplate(transactions.getTransactionManager());
        this.moment.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.moment.setIsolationLevel(TransactionDefinition.ISOLATION_SERIALIZABLE);
        this.moment.setReadOnly(true);
        this.queries = queries;
        this.json = json;
        this.clock = clock;
    }

    record FailureView(
            String document, BigDecimal expected, BigDecimal actual, BigDecimal difference, String sentence) {}

    record StatementView(
            int no,
            String words,
            boolean holds,
            long examined,
            String lookedAt,
            @Nullable BigDecimal documents,
            @Nullable BigDecimal ledger,
            @Nullable BigDecimal difference,
            List<FailureView> failures) {

        static StatementView of(Statement.Result result) {
            var difference = result.documents() == null ? null : result.ledger().subtract(result.documents());
            return new StatementView(
                    result.statement().no(),
                    result.statement().words(),
                    result.holds(),
                    result.examined(),
                    result.statement().lookedAt(),
                    result.documents(),
                    result.ledger(),
                    difference,
                    result.failures().stream()
                            .map(f -> new FailureView(
                                    f.document(), f.expected(), f.actual(), f.difference(), f.sentence()))
                            .toList());
        }
    }

    /** A run over the whole books; everything but the failing count is empty where none was made yet. */
    record RunView(Instant at, long millis, String by, int failing, List<StatementView> statements) {}

    RunView run(String by) {
        var started = clock.instant();
        var statements = moment.execute(status -> books.run()).stream()
                .map(StatementView::of)
                .toList();
        var run = new RunView(
                started,
                clock.instant().toEpochMilli() - started.toEpochMilli(),
                by,
                (int) statements.stream().filter(s -> !s.holds()).count(),
                statements);
        var row = new ProofRunEntity();
        row.startedAt = started;
        row.millis = run.millis();
        row.runBy = run.by();
        row.failing = run.failing();
        row.result = json.writeValueAsString(run);
        transactions.executeWithoutResult(status -> queries.session().insert(row));
        return run;
    }

    /** The newest run: what the seal shows. */
    RunView latest() {
        Optional<String> result = queries.latest();
        return result.map(stored -> json.readValue(stored, RunView.class))
                .orElse(new RunView(null, 0, "", 0, List.of()));
    }

    @Override
    public void run(ApplicationArguments arguments) {
        if (latest().at() == null) {
            run("the system");
        }
    }
}
