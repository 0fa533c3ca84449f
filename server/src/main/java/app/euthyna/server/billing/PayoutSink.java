package app.euthyna.server.billing;

import app.euthyna.core.flow.Effect;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import org.springframework.core.annotation.Order;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.stereotype.Component;

/** Keeps the payout of a refund that goes through the payment service, with the refund. */
@Component
@Order(47)
class PayoutSink implements EffectSink {

    private final RefundQueries queries;
    private final CompanyRulesStore rules;
    private final PayoutJobs jobs;

    PayoutSink(RefundQueries queries, CompanyRulesStore rules, PayoutJobs jobs) {
        this.queries = queries;
        this.rules = rules;
        this.jobs = jobs;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        if (effect instanceof Effect.RefundGiven refunded
                && rules.inForce().unwind().refundsThroughService()) {
            var payout = new PayoutEntity();
            payout.refundId = queries.refundId(refunded.refund());
            payout.state = Payouts.State.WAITING.name();
            payout.askedOn = context.date();
            payout.reference = "";
            payout.answer = "";
            queries.session().insert(payout);
            jobs.ask(payout);
        }
        if (effect instanceof Effect.RefundReversed reversed) {
            // what was not sent yet is not sent any more
            var refund = queries.refundId(reversed.refund());
            if (queries.withdraw(refund) == 0 && queries.onTheirWay(refund) > 0) {
                throw new PessimisticLockingFailureException(reversed.refund() + " is being sent by now");
            }
        }
    }
}
