package app.euthyna.core.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.util.List;

/**
 * The step with which money goes back: above the limit of whoever undoes, the finance lead decides on it; where they
 * recorded the money, another person.
 */
final class Refunding {

    private Refunding() {}

    static Plan.Step step(List<Effect.RefundGiven> refunds, UnwindContext unwindContext, UnwindRequest unwindRequest) {
        var amount = refunds.stream()
                .map(Effect.RefundGiven::amount)
                .reduce(Money::plus)
                .orElseThrow();
        var because = RefundRules.refusal(
                unwindRequest.person(),
                refunds.stream()
                        .map(refund -> new RefundRules.Wanted(refund.source(), refund.amount()))
                        .toList(),
                unwindContext.refunds());
        return new Plan.Step(
                Plan.Kind.REFUND,
                because.map(refusal -> "%s would be refunded to the customer %s".formatted(amount, once(refusal)))
                        .orElseGet(() -> "%s is refunded to the customer".formatted(amount)),
                because.isEmpty() ? Plan.Timing.NOW : Plan.Timing.SOMEBODY_ELSE,
                because.filter(RefundRules.LimitOfPerson.class::isInstance).isPresent()
                        ? List.of(Role.LEAD)
                        : Planner.MAY_UNDO,
                List.copyOf(refunds),
                because);
    }

    private static String once(Refusal refusal) {
        if (refusal instanceof RefundRules.LimitOfPerson over) {
            return over.before().isPositive()
                    ? "once the finance lead approves; with %s refunded in the last %d days, up to %s needs no approval"
                            .formatted(over.before(), RefundRules.DAYS_TOGETHER, over.limit())
                    : "once the finance lead approves; up to %s needs no approval".formatted(over.limit());
        }
        return "once another person approves; %s recorded the money"
                .formatted(((RefundRules.RecordedByThem) refusal).username());
    }
}
