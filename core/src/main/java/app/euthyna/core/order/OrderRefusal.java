package app.euthyna.core.order;

import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;

/** Why an order can't be taken further or changed. */
public sealed interface OrderRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.WRONG_STATE;
    }

    /** The order is not cleared, so nothing may leave or be billed for it. */
    record NotCleared(String order, OrderState state) implements OrderRefusal {
        @Override
        public String code() {
            return "not-cleared";
        }

        @Override
        public String sentence() {
            return "Order %s is %s; only a cleared order may be staged, shipped or billed."
                    .formatted(order, state.words());
        }

        @Override
        public String instead() {
            return state == OrderState.HELD ? "Look at its findings in Review." : "";
        }
    }

    /** A request for approval is open, so the content stands still. */
    record Locked(String order) implements OrderRefusal {
        @Override
        public String code() {
            return "locked-awaiting-approval";
        }

        @Override
        public String sentence() {
            return "Order %s awaits approval and cannot be changed.".formatted(order);
        }

        @Override
        public String instead() {
            return "Recall the request first.";
        }
    }

    /** The order has come to its end. */
    record Ended(String order, OrderState state) implements OrderRefusal {
        @Override
        public String code() {
            return "order-ended";
        }

        @Override
        public String sentence() {
            return "Order %s is %s and cannot be changed.".formatted(order, state.words());
        }

        @Override
        public String instead() {
            return "Enter a new order.";
        }
    }

    /** The line's quantity would fall below what can't be taken back by a change. */
    record BelowCommitted(String order, int line, Quantity asked, Quantity least, Committed.Reason reason)
            implements OrderRefusal {
        @Override
        public String code() {
            return reason.code();
        }

        @Override
        public Kind kind() {
            return Kind.RULE_NOT_MET;
        }

        @Override
        public String sentence() {
            return "Line %d of order %s cannot go below %s: %s are %s."
                    .formatted(line, order, asked, least, reason.words());
        }
    }
}
