package app.euthyna.server.platform;

import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import com.github.kagkarlsson.scheduler.task.Task;
import jakarta.servlet.http.HttpServletRequest;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.annotation.Bean;
import org.springframework.core.retry.RetryException;
import org.springframework.core.retry.RetryPolicy;
import org.springframework.core.retry.RetryTemplate;
import org.springframework.dao.ConcurrencyFailureException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.dao.QueryTimeoutException;
import org.springframework.orm.jpa.vendor.HibernateJpaDialect;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.util.function.SingletonSupplier;
import tools.jackson.databind.ObjectMapper;

/**
 * Runs a command as one transaction that is safe to send twice: the answer is kept under the caller's idempotency key
 * together with what the command wrote. A race lost to others is run again a few times.
 */
@Component
public class Commands {

    /** A transaction is run so often again, after a time that grows and that no two wait alike. */
    private static final int RETRIES = 7;

    private static final Duration FIRST_WAIT = Duration.ofMillis(15);
    private static final Duration JITTER = Duration.ofMillis(10);
    private static final Duration LONGEST_WAIT = Duration.ofMillis(150);
    private static final double GROWTH = 1.5;

    /** What one command leaves leaves something again; more rounds than this are left to whoever looks later. */
    private static final int ROUNDS = 100;

    /** Keys and answers are kept for so long: who sends a command again later sends a new one. */
    private static final Duration KEPT = Duration.ofDays(7);

    /** SQL states of class 22: a figure or text that its column can't hold. */
    private static final String CANNOT_HOLD = "22";

    private final HibernateJpaDialect dialect = new HibernateJpaDialect();
    private final RetryTemplate retries = new RetryTemplate(RetryPolicy.builder()
            .maxRetries(RETRIES)
            .delay(FIRST_WAIT)
            .jitter(JITTER)
            .multiplier(GROWTH)
            .maxDelay(LONGEST_WAIT)
            .predicate(this::isLostRace)
            .build());

    private final TransactionTemplate transactions;
    private final TransactionTemplate aside;
    private final PlatformQueries queries;
    private final ObjectMapper json;
    private final CompanyClock clock;
    private final ObjectProvider<CommandContext.DatingRule> rule;
    private final Supplier<List<AfterCommand>> afterwards;

    Commands(
            TransactionTemplate transactions,
            PlatformQueries queries,
            ObjectMapper json,
            CompanyClock clock,
            ObjectProvider<CommandContext.DatingRule> rule,
            ObjectProvider<AfterCommand> afterwards) {
        this.afterwards = SingletonSupplier.of(() -> afterwards.orderedStream().toList());
        this.rule = rule;
        this.transactions = transactions;
        this.aside = new TransactionTemplate(transactions.getTransactionManager());
        this.aside.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.queries = queries;
        this.json = json;
        this.clock = clock;
    }

    /**
     * Runs {@code body} once for the key in {@code http}, whatever the number of times it is sent.
     *
     * @param request what was asked for: the same key with another request is refused
     */
    public <T> T run(HttpServletRequest http, Object request, Class<T> answer, Function<CommandContext, T> body) {
        var key = http.getHeader("Idempotency-Key");
        if (key == null || key.isBlank() || key.length() > 120) {
            throw new RefusedException(new PlatformRefusal.KeyMissing());
        }
        var hash =
                Hashes.sha256((http.getMethod() + " " + http.getRequestURI() + "\n" + json.writeValueAsString(request))
                        .getBytes(StandardCharsets.UTF_8));
        var context = context();
        return retrying(() -> transactions.execute(status -> {
            var earlier = queries.answered(context.person().username(), key);
            if (earlier.isPresent()) {
                if (!earlier.get().requestHash().equals(hash)) {
                    throw new RefusedException(new PlatformRefusal.KeyReused(key));
                }
                return json.readValue(Answers.open(earlier.get().response()), answer);
            }
            var row = new CommandLogEntity();
            row.username = context.person().username();
            row.idempotencyKey = key;
            row.requestHash = hash;
            row.response = "";
            row.at = Instant.now();
            queries.session().insert(row);
            var result = body.apply(context);
            queries.answer(
                    Answers.kept(json.writeValueAsString(result)),
                    context.person().username(),
                    key);
            return result;
        }));
    }

    /** Forgets old answers. */
    @Bean
    Task<?> forgetOldAnswersJob() {
        return Jobs.every("forget-old-answers", Duration.ofMinutes(2), Duration.ofHours(1), this::forgetOldAnswers);
    }

    void forgetOldAnswers() {
        queries.forgetOldAnswers(Instant.now().minus(KEPT));
    }

    record Answered(String requestHash, String response) {}

    /** Does work in a transaction of its own, again when others were faster. */
    public <T> T inTransaction(Supplier<T> work) {
        return retrying(() -> transactions.execute(status -> work.get()));
    }

    /** Does work that stands whatever becomes of the transaction that asks for it. */
    public <T> T aside(Supplier<T> work) {
        return aside.execute(status -> work.get());
    }

    /** Does work in a transaction that is taken back, to see what would come of it. */
    public <T> T simulated(Supplier<T> work) {
        return retrying(() -> transactions.execute(status -> {
            status.setRollbackOnly();
            return work.get();
        }));
    }

    /** Runs a whole transaction again when others were faster; gives up with a problem that says so. */
    public <T> T retrying(Supplier<T> transaction) {
        try {
            return tried(transaction);
        } finally {
            workOff();
        }
    }

    /** Does what this thread's commands have left to be done, and what follows from that in turn. */
    public void workOff() {
        for (int round = 0; round < ROUNDS; round++) {
            var worked = false;
            for (var after : afterwards.get()) {
                worked |= after.workOff();
            }
            if (!worked) {
                return;
            }
        }
    }

    private <T> T tried(Supplier<T> transaction) {
        try {
            return retries.execute(transaction::get);
        } catch (RetryException given) {
            throw told(given.getLastException());
        }
    }

    /** What the caller is told of a transaction that failed for good. */
    private RuntimeException told(Throwable failed) {
        if (isLostRace(failed)) {
            return new RefusedException(new PlatformRefusal.Busy());
        }
        if (failed instanceof RuntimeException thrown) {
            return translated(thrown) instanceof DataIntegrityViolationException told
                            && state(told).startsWith(CANNOT_HOLD)
                    ? new RefusedException(new PlatformRefusal.TooLarge())
                    : thrown;
        }
        if (failed instanceof Error error) {
            throw error;
        }
        return new IllegalStateException(failed);
    }

    /** Others were faster: tried again, the transaction finds what they left. */
    private boolean isLostRace(Throwable failed) {
        if (failed instanceof RefusedException || !(failed instanceof RuntimeException thrown)) {
            return false;
        }
        var told = translated(thrown);
        return told instanceof ConcurrencyFailureException
                || told instanceof DuplicateKeyException
                || told instanceof QueryTimeoutException;
    }

    /** What the persistence layer throws before Spring has seen it says the same in other words. */
    private RuntimeException translated(RuntimeException failed) {
        var told = dialect.translateExceptionIfPossible(failed);
        return told == null ? failed : told;
    }

    /** The SQL state at the bottom of a failure. */
    private static String state(Throwable failed) {
        for (var cause = failed; cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException sql && sql.getSQLState() != null) {
                return sql.getSQLState();
            }
        }
        return "";
    }

    /** The day on which commands are given now. */
    public LocalDate today() {
        return clock.today();
    }

    /** Somebody today who is not signed in: a clock, a service. */
    public CommandContext as(Person person) {
        return new CommandContext(person, today(), "");
    }

    /** Who is signed in, today. */
    public CommandContext context() {
        var authentication = SecurityContextHolder.getContext().getAuthentication();
        var role = authentication.getAuthorities().stream()
                .map(a -> a.getAuthority())
                .filter(a -> a.startsWith("ROLE_"))
                .findFirst()
                .map(a -> Role.valueOf(a.substring("ROLE_".length())))
                .orElseThrow();
        var today = today();
        var standsInFor = queries.standsInFor(authentication.getName(), today);
        return new CommandContext(
                new Person(authentication.getName(), role, Set.copyOf(standsInFor)),
                today,
                today,
                "",
                rule.getObject());
    }
}
