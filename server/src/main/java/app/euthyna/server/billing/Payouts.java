package app.euthyna.server.billing;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.PreDestroy;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeoutException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Refunds on their way through the payment service. A refund is posted and its payout kept in one transaction; the
 * service is asked after it, under the refund's own number, so that however often it has to be asked the money goes out
 * once. What it declines is reversed and the customer's credit again. What a server left unfinished is taken up by any
 * other.
 */
@Component
@Order(47)
class Payouts implements EffectSink {

    private static final Logger LOG = LoggerFactory.getLogger(Payouts.class);
    private static final Person THE_SERVICE = new Person("payment-service", Role.ADMIN);
    /** The service is asked so often before someone has to look. */
    static final int TRIES = 3;
    /** A payout that was taken up and not ended for so long is taken up again. */
    private static final Duration SILENCE = Duration.ofSeconds(20);

    private final JdbcClient jdbc;
    private final CompanyRulesStore rules;
    private final SimulatedPaymentService service;
    private final Company company;
    private final Commands commands;
    private final TransactionTemplate transactions;
    private final EffectWriter writer;
    private final Locks locks;
    private final CompanyClock clock;
    private final ExecutorService worker = Executors.newSingleThreadExecutor(task -> {
        var thread = new Thread(task, "payouts");
        thread.setDaemon(true);
        return thread;
    });

    Payouts(
            JdbcClient jdbc,
            CompanyRulesStore rules,
            SimulatedPaymentService service,
            Company company,
            Commands commands,
            TransactionTemplate transactions,
            EffectWriter writer,
            Locks locks,
            CompanyClock clock) {
        this.jdbc = jdbc;
        this.rules = rules;
        this.service = service;
        this.company = company;
        this.commands = commands;
        this.transactions = transactions;
        this.writer = writer;
        this.locks = locks;
        this.clock = clock;
    }

    @PreDestroy
    void close() {
        worker.shutdownNow();
    }

    /** How far a payout is. */
    enum State {
        /** To be sent. */
        WAITING,
        /** The service is being asked. */
        SENDING,
        PAID,
        DECLINED,
        /** Nobody knows whether it was paid: it is asked for again under the same key, never sent anew. */
        UNANSWERED
    }

    /** The payout does not wait for anybody. */
    record NotUnanswered(String refund, State state) implements Refusal {
        @Override
        public String code() {
            return "not-awaiting";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "The payout of refund %s is %s; no action is needed."
                    .formatted(refund, state.name().toLowerCase(java.util.Locale.ROOT));
        }
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        if (effect instanceof Effect.RefundGiven refunded
                && rules.inForce().unwind().refundsThroughService()) {
            jdbc.sql("insert into payout (refund_id, state, asked_on, tries, reference, answer, closed,"
                            + " version) select id, 'WAITING', cast(? as date), 0, '', '', false, 0 from refund"
                            + " where number = ?")
                    .params(context.date(), refunded.refund())
                    .update();
            sendAfterCommit(id(refunded.refund()));
        }
    }

    private void sendAfterCommit(long id) {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                worker.execute(() -> send(id));
            }
        });
    }

    private long id(String refund) {
        return jdbc.sql("select p.id from payout p join refund r on r.id = p.refund_id where r.number = ?")
                .param(refund)
                .query(Long.class)
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("payout of refund", refund)));
    }

    /** Takes up what waits, or was taken up by a server that is no longer there. */
    @Scheduled(initialDelay = 4_000, fixedDelay = 5_000)
    void takeUp() {
        jdbc.sql("select id from payout where closed = false and (state = 'WAITING' or state = 'SENDING' and"
                        + " claimed_at < ?) order by id fetch first 100 rows only")
                .param(Timestamp.from(Instant.now().minus(SILENCE)))
                .query(Long.class)
                .list()
                .forEach(id -> worker.execute(() -> send(id)));
    }

    private record Claimed(RefundRules.Refund refund, long id) {}

    /** Asks the service, unless someone else is doing so. */
    void send(long id) {
        try {
            var claimed = commands.retrying(() -> transactions.execute(status -> claim(id)));
            if (claimed != null) {
                var answer = ask(claimed.refund());
                commands.retrying(() -> transactions.execute(status -> {
                    record(claimed, answer);
                    return null;
                }));
            }
        } catch (RuntimeException bug) {
            // it stays claimed, and is taken up again under the same key
            LOG.error("payout {}", id, bug);
        }
    }

    private Claimed claim(long id) {
        var now = Instant.now();
        var taken = jdbc.sql(
                        "update payout set state = 'SENDING', claimed_at = ?, tries = tries + 1, version = version + 1"
                                + " where id = ? and closed = false and (state = 'WAITING' or state = 'SENDING' and"
                                + " claimed_at < ?)")
                .params(Timestamp.from(now), id, Timestamp.from(now.minus(SILENCE)))
                .update();
        return taken == 0 ? null : new Claimed(refund("p.id = ?", id), id);
    }

    private RefundRules.Refund refund(String which, Object parameter) {
        return jdbc.sql("select r.number, c.code, r.source_kind, r.source_number, coalesce(o.number, ''), r.amount,"
                        + " r.reversed_on from refund r join customer c on c.id = r.customer_id left join"
                        + " sales_order o on o.id = r.order_id left join payout p on p.refund_id = r.id where "
                        + which)
                .param(parameter)
                .query((r, n) -> new RefundRules.Refund(
                        r.getString(1),
                        r.getString(2),
                        new DocumentRef(DocumentKind.valueOf(r.getString(3)), r.getString(4)),
                        r.getString(5),
                        company.money(r.getBigDecimal(6)),
                        r.getObject(7) != null))
                .single();
    }

    /** Null where it did not answer in {@link #TRIES} tries. */
    private SimulatedPaymentService.Answer ask(RefundRules.Refund refund) {
        for (int attempt = 1; attempt <= TRIES; attempt++) {
            try {
                return service.pay(refund.number(), refund.amount());
            } catch (TimeoutException silent) {
                LOG.debug("refund {} was not answered, try {}", refund.number(), attempt);
            }
        }
        return null;
    }

    private void record(Claimed claimed, SimulatedPaymentService.Answer answer) {
        var refund = claimed.refund();
        if (answer == null) {
            ended(claimed.id(), State.UNANSWERED, "", "No answer after " + TRIES + " tries.", false);
        } else if (answer == SimulatedPaymentService.Answer.PAID) {
            ended(claimed.id(), State.PAID, "PS-" + refund.number(), "", true);
            // an earlier try that was declined is done with
            jdbc.sql("update payout set closed = true, version = version + 1 where state = 'DECLINED' and"
                            + " refund_id in (select id from refund where source_kind = ? and source_number = ?)")
                    .params(refund.source().kind().name(), refund.source().number())
                    .update();
        } else {
            locks.customer(refund.customer());
            if (!refund.order().isEmpty()) {
                locks.orders(List.of(refund.order()));
            }
            ended(claimed.id(), State.DECLINED, "", "Declined by the payment service.", false);
            var again = refund("r.number = ?", refund.number());
            if (!again.reversed()) {
                writer.write(
                        new CommandContext(THE_SERVICE, clock.today(), "declined by the payment service"),
                        List.of(RefusedException.orThrow(RefundRules.reverse(again))));
            }
        }
    }

    private void ended(long id, State state, String reference, String answer, boolean closed) {
        jdbc.sql("update payout set state = ?, reference = ?, answer = ?, closed = ?, version = version + 1"
                        + " where id = ?")
                .params(state.name(), reference, answer, closed, id)
                .update();
    }

    /** Asks the service once more what became of a refund. */
    void askAgain(String refund, long version) {
        sendAfterCommit(change(refund, version, State.UNANSWERED, "state = 'WAITING'"));
    }

    /** Somebody has seen that a refund was declined; the money stays customer credit. */
    void close(String refund, long version) {
        change(refund, version, State.DECLINED, "closed = true");
    }

    private record Kept(State state, long version) {}

    private long change(String refund, long version, State wanted, String to) {
        var id = id(refund);
        var now = jdbc.sql("select state, version from payout where id = ? for update")
                .param(id)
                .query((r, n) -> new Kept(State.valueOf(r.getString(1)), r.getLong(2)))
                .single();
        if (now.state() != wanted) {
            throw new RefusedException(new NotUnanswered(refund, now.state()));
        }
        if (now.version() != version) {
            throw new RefusedException(
                    new PlatformRefusal.StaleVersion("The payout of refund " + refund, version, now.version()));
        }
        jdbc.sql("update payout set " + to + ", version = version + 1 where id = ?")
                .param(id)
                .update();
        return id;
    }
}
