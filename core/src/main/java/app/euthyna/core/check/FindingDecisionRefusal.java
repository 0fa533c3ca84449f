package app.euthyna.core.check;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;
import java.util.Collection;
import java.util.List;

/** Why an order can't be decided on any more. */
public sealed interface FindingDecisionRefusal extends Refusal.WrongState {

    /** Goods are gone or billed. */
    @Code("departed-goods")
    record GoodsLeft(String order) implements FindingDecisionRefusal {}

    /** Nothing is open on it that someone could waive. */
    @Code("nothing-open")
    record NothingOpen(String order, OrderState state) implements FindingDecisionRefusal {}

    /** Goods are picked. */
    @Code("staged-goods")
    record GoodsStaged(String order, String dispatch) implements FindingDecisionRefusal {}

    /**
     * Since whoever decides has seen it, the order stands worse: other orders of its customer went first, or a day
     * passed.
     */
    @Code("stale-version")
    record StandsWorse(String order, List<String> findings) implements FindingDecisionRefusal {
        public StandsWorse {
            findings = List.copyOf(findings);
        }

        /** An order as it stands now. */
        public static StandsWorse of(String order, Collection<Finding> worse) {
            return new StandsWorse(
                    order, worse.stream().map(f -> f.evidence().sentence()).toList());
        }

        String worse() {
            return String.join("; ", findings);
        }
    }
}
