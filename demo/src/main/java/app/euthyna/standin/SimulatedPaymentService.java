package app.euthyna.standin;

import app.euthyna.core.shared.Money;
import app.euthyna.server.billing.PaymentServiceConnection;
import java.math.BigDecimal;
import java.util.concurrent.TimeoutException;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Stands in for the payment service: it pays money out to customers, or declines, or does not answer. It knows each
 * payout by a key and does what was asked under it once; asked again it says what it has done. What it keeps is its
 * own: it stands whatever becomes of the caller.
 */
@Component
@Transactional(propagation = Propagation.REQUIRES_NEW)
class SimulatedPaymentService implements PaymentServiceConnection {

    private final StandInQueries queries;
    private final StatelessSession session;

    SimulatedPaymentService(StandInQueries queries, StatelessSession session) {
        this.queries = queries;
        this.session = session;
    }

    /** How it behaves. */
    enum Behaviour {
        PAYS,
        DECLINES,
        /** It does nothing and does not answer. */
        SILENT,
        /** It pays, but the first answer is lost on the way. */
        LOSES_ANSWER
    }

    @Transactional(propagation = Propagation.REQUIRES_NEW, noRollbackFor = TimeoutException.class)
    @Override
    public Answer pay(String key, Money amount) throws TimeoutException {
        var done = queries.paid(key);
        var behaviour = behaviour();
        if (behaviour == Behaviour.SILENT) {
            throw new TimeoutException("no answer in time");
        }
        if (done.isPresent()) {
            return Answer.valueOf(done.get());
        }
        var answer = behaviour == Behaviour.DECLINES ? Answer.DECLINED : Answer.PAID;
        var row = new SimulatedPayoutEntity();
        row.payoutKey = key;
        row.amount = amount.amount();
        row.answer = answer.name();
        session.insert(row);
        if (behaviour == Behaviour.LOSES_ANSWER) {
            throw new TimeoutException("the answer was lost");
        }
        return answer;
    }

    Behaviour behaviour() {
        return Behaviour.valueOf(queries.behaviour());
    }

    /** All that it has paid out, and in how many payouts. */
    record PaidOut(long count, BigDecimal amount) {}

    PaidOut paidOut() {
        var paid = queries.paidOut();
        return new PaidOut(paid.count(), paid.amount());
    }

    void behave(Behaviour behaviour) {
        queries.behave(behaviour.name());
    }
}
