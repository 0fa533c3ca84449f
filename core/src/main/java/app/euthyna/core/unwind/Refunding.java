package app.euthyna.core.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Optional;

/** The step with which money goes back: above the house's limit somebody else decides on it. */
final class Refunding {

    private Refunding() {}

    static Plan.Step step(List<Effect.Refunded> refunds, Scene scene, Undoing undoing) {
        var amount = refunds.stream()
                .map(Effect.Refunded::amount)
                .reduce(Money::plus)
                .orElseThrow();
        var free = mayRefund(amount, scene.refundLimit(), undoing);
        var sentence = "%s %s given back to the customer%s"
                .formatted(
                        amount,
                        free ? "is" : "would be",
                        free
                                ? ""
                                : " once the finance lead has agreed; up to %s need nobody's word"
                                        .formatted(scene.refundLimit().orElseThrow()));
        return new Plan.Step(
                Plan.Kind.REFUND,
                sentence,
                free ? Plan.Timing.NOW : Plan.Timing.SOMEBODY_ELSE,
                free ? Planner.MAY_UNDO : List.of(Role.LEAD),
                List.copyOf(refunds));
    }

    private static boolean mayRefund(Money amount, Optional<Money> limit, Undoing undoing) {
        return limit.isEmpty()
                || amount.compareTo(limit.get()) <= 0
                || undoing.person().carries(List.of(Role.LEAD));
    }
}
