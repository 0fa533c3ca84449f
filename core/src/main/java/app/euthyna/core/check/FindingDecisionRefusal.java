package app.euthyna.core.check;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Refusal;
import java.util.Collection;
import java.util.List;

/** Why an order can't be decided on any more. */
public sealed interface FindingDecisionRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.WRONG_STATE;
    }

    /** Goods are gone or billed. */
    record GoodsLeft(String order) implements FindingDecisionRefusal {
        @Override
        public String code() {
            return "departed-goods";
        }

        @Override
        public String sentence() {
            return "Goods of order %s are shipped or billed; it cannot be declined.".formatted(order);
        }

        @Override
        public String instead() {
            return "Cancel the rest instead.";
        }
    }

    /** Nothing is open on it that someone could waive. */
    record NothingOpen(String order, OrderState state) implements FindingDecisionRefusal {
        @Override
        public String code() {
            return "nothing-open";
        }

        @Override
        public String sentence() {
            return "Order %s is %s and has no open finding; there is nothing to waive.".formatted(order, state.words());
        }
    }

    /** Goods are picked. */
    record GoodsStaged(String order, String dispatch) implements FindingDecisionRefusal {
        @Override
        public String code() {
            return "staged-goods";
        }

        @Override
        public String sentence() {
            return "Goods of order %s are staged on dispatch %s.".formatted(order, dispatch);
        }

        @Override
        public String instead() {
            return "Void dispatch %s first.".formatted(dispatch);
        }
    }

    /**
     * Since whoever decides has seen it, the order stands worse: other orders of its customer went first, or a day
     * passed.
     */
    record StandsWorse(String order, List<String> findings) implements FindingDecisionRefusal {
        public StandsWorse {
            findings = List.copyOf(findings);
        }

        /** An order as it stands now. */
        public static StandsWorse of(String order, Collection<Finding> worse) {
            return new StandsWorse(
                    order, worse.stream().map(f -> f.evidence().sentence()).toList());
        }

        @Override
        public String code() {
            return "stale-version";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Order %s stands worse than you saw: %s.".formatted(order, String.join("; ", findings));
        }

        @Override
        public String instead() {
            return "Reload it and decide on what is shown then.";
        }
    }
}
