package app.euthyna.core.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Optional;

/** The step with which money goes back: above the company's limit someone else decides on it. */
final class Refunding {

    private Refunding() {}

    static Plan.Step step(List<Effect.RefundGiven> refunds, UnwindContext unwindContext, UnwindRequest unwindRequest) {
        var amount = refunds.stream()
                .map(Effect.RefundGiven::amount)
                .reduce(Money::plus)
                .orElseThrow();
        var free = mayRefund(amount, unwindContext.refundLimit(), unwindRequest);
        var sentence = "%s %s refunded to the customer%s"
                .formatted(
                        amount,
                        free ? "is" : "would be",
                        free
                                ? ""
                                : " once the finance lead approves; up to %s needs no approval"
                                        .formatted(unwindContext.refundLimit().orElseThrow()));
        return new Plan.Step(
                Plan.Kind.REFUND,
                sentence,
                free ? Plan.Timing.NOW : Plan.Timing.SOMEBODY_ELSE,
                free ? Planner.MAY_UNDO : List.of(Role.LEAD),
                List.copyOf(refunds));
    }

    private static boolean mayRefund(Money amount, Optional<Money> limit, UnwindRequest unwindRequest) {
        return limit.isEmpty()
                || amount.compareTo(limit.get()) <= 0
                || unwindRequest.person().carries(List.of(Role.LEAD));
    }
}
