package app.euthyna.server.billing;

import app.euthyna.core.shared.Money;
import java.math.BigDecimal;
import java.util.concurrent.TimeoutException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * The payment service, simulated: it pays money out to customers, or declines, or does not answer. It knows each payout
 * by a key and does what was asked under it once; asked again it says what it has done. What it keeps is its own: it
 * stands whatever becomes of the caller.
 */
@Component
@Transactional(propagation = Propagation.REQUIRES_NEW)
class SimulatedPaymentService {

    private final JdbcClient jdbc;

    SimulatedPaymentService(JdbcClient jdbc) {
        this.jdbc = jdbc;
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

    /** What it has done under a key. */
    enum Answer {
        PAID,
        DECLINED
    }

    @Transactional(propagation = Propagation.REQUIRES_NEW, noRollbackFor = TimeoutException.class)
    Answer pay(String key, Money amount) throws TimeoutException {
        var done = jdbc.sql("select answer from simulated_payout where payout_key = ?")
                .param(key)
                .query(String.class)
                .optional();
        var behaviour = behaviour();
        if (behaviour == Behaviour.SILENT) {
            throw new TimeoutException("no answer in time");
        }
        if (done.isPresent()) {
            return Answer.valueOf(done.get());
        }
        var answer = behaviour == Behaviour.DECLINES ? Answer.DECLINED : Answer.PAID;
        jdbc.sql("insert into simulated_payout (payout_key, amount, answer) values (?, ?, ?)")
                .params(key, amount.amount(), answer.name())
                .update();
        if (behaviour == Behaviour.LOSES_ANSWER) {
            throw new TimeoutException("the answer was lost");
        }
        return answer;
    }

    Behaviour behaviour() {
        return Behaviour.valueOf(jdbc.sql("select behaviour from simulated_payment_service where id = 1")
                .query(String.class)
                .single());
    }

    /** All that it has paid out, and in how many payouts. */
    record PaidOut(long count, BigDecimal amount) {}

    PaidOut paidOut() {
        return jdbc.sql("select count(*), coalesce(sum(amount), 0) from simulated_payout where answer = 'PAID'")
                .query((r, n) -> new PaidOut(r.getLong(1), r.getBigDecimal(2)))
                .single();
    }

    void behave(Behaviour behaviour) {
        jdbc.sql("update simulated_payment_service set behaviour = ? where id = 1")
                .param(behaviour.name())
                .update();
    }
}
