package app.euthyna.server.billing;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;
import org.hibernate.LockMode;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Refunds on their way through the payment service. A refund is posted and its payout kept in one transaction; the
 * service is asked after it, under the refund's own number, so that however often it has to be asked the money goes out
 * once. What it declines is reversed and the customer's credit again. What a server left unfinished is taken up by any
 * other.
 */
@Component
class Payouts {

    private static final Logger LOG = LoggerFactory.getLogger(Payouts.class);
    private static final Person THE_SERVICE = new Person("payment-service", Role.ADMIN);
    /** The service is asked so often before someone has to look. */
    static final int TRIES = 3;

    private final RefundQueries queries;
    private final Optional<PaymentServiceConnection> service;
    private final Company company;
    private final Commands commands;
    private final EffectWriter writer;
    private final Locks locks;

    Payouts(
            RefundQueries queries,
            Optional<PaymentServiceConnection> service,
            Company company,
            Commands commands,
            EffectWriter writer,
            Locks locks) {
        this.queries = queries;
        this.service = service;
        this.company = company;
        this.commands = commands;
        this.writer = writer;
        this.locks = locks;
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
    @Code("not-awaiting")
    record NotUnanswered(String refund, State state) implements Refusal.WrongState {
        String stands() {
            return state.name().toLowerCase(Locale.ROOT);
        }
    }

    private long id(String refund) {
        return queries.payoutOf(refund)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("payout of refund", refund)));
    }

    private record Claimed(RefundRules.Refund refund, long id) {}

    /** Asks the service. Where this ends in the middle, it is asked again, under the same key. */
    void send(long id) {
        var claimed = commands.inTransaction(() -> claim(id));
        if (claimed != null) {
            var answer = ask(claimed.refund());
            commands.inTransaction(() -> {
                record(claimed, answer);
                return null;
            });
        }
    }

    /** Null where it has ended meanwhile. */
    private Claimed claim(long id) {
        return queries.claim(id) == 0 ? null : new Claimed(refund(queries.refundOf(id)), id);
    }

    private RefundRules.Refund refund(RefundQueries.RefundRow row) {
        return new RefundRules.Refund(
                row.number(),
                row.customer(),
                new DocumentRef(row.sourceKind(), row.sourceNumber()),
                row.order(),
                company.money(row.amount()),
                row.reversedOn() != null);
    }

    /** Null where it did not answer in {@link #TRIES} tries, or nobody is there to be asked. */
    private PaymentServiceConnection.Answer ask(RefundRules.Refund refund) {
        for (int attempt = 1; service.isPresent() && attempt <= TRIES; attempt++) {
            try {
                return service.get().pay(refund.number(), refund.amount());
            } catch (TimeoutException silent) {
                LOG.debug("refund {} was not answered, try {}", refund.number(), attempt);
            }
        }
        return null;
    }

    private void record(Claimed claimed, PaymentServiceConnection.Answer answer) {
        var refund = claimed.refund();
        if (answer == null) {
            ended(
                    claimed.id(),
                    State.UNANSWERED,
                    "",
                    service.isPresent() ? "No answer after " + TRIES + " tries." : "No payment service is connected.",
                    false);
        } else if (answer == PaymentServiceConnection.Answer.PAID) {
            ended(claimed.id(), State.PAID, "PS-" + refund.number(), "", true);
            // an earlier try that was declined is done with
            queries.closeDeclined(refund.source().kind(), refund.source().number());
        } else {
            locks.customer(refund.customer());
            if (!refund.order().isEmpty()) {
                locks.orders(List.of(refund.order()));
            }
            ended(claimed.id(), State.DECLINED, "", "Declined by the payment service.", false);
            var again = refund(queries.refund(refund.number()));
            if (!again.reversed()) {
                writer.write(
                        new CommandContext(THE_SERVICE, company.today(), "declined by the payment service"),
                        List.of(RefusedException.orThrow(RefundRules.reverse(again))));
            }
        }
    }

    private void ended(long id, State state, String reference, String answer, boolean closed) {
        queries.end(state.name(), reference, answer, closed, id);
    }

    /** The payout of a refund of which the service is to say once more what became of it. */
    PayoutEntity toAskAgain(String refund, long version) {
        return change(refund, version, State.UNANSWERED, payout -> payout.state = State.WAITING.name());
    }

    /** Somebody has seen that a refund was declined; the money stays customer credit. */
    void close(String refund, long version) {
        change(refund, version, State.DECLINED, payout -> payout.closed = true);
    }

    private PayoutEntity change(String refund, long version, State wanted, Consumer<PayoutEntity> change) {
        var payout = queries.session().get(PayoutEntity.class, id(refund), LockMode.PESSIMISTIC_WRITE);
        var state = State.valueOf(payout.state);
        if (state != wanted) {
            throw new RefusedException(new NotUnanswered(refund, state));
        }
        if (payout.version != version) {
            throw new RefusedException(
                    new PlatformRefusal.StaleVersion("The payout of refund " + refund, version, payout.version));
        }
        change.accept(payout);
        queries.session().update(payout);
        return payout;
    }
}
