package app.euthyna.core.order;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;

/** Why an order can't be taken further or changed. */
public sealed interface OrderRefusal extends Refusal.WrongState {

    /** The order is not cleared, so nothing may leave or be billed for it. */
    @Code("not-cleared")
    record NotCleared(String order, OrderState state) implements OrderRefusal {
        @Override
        public String variant() {
            return state == OrderState.HELD ? "held" : "";
        }
    }

    /** A request for approval is open, so the content stands still. */
    @Code("locked-awaiting-approval")
    record Locked(String order) implements OrderRefusal {}

    /** The order has come to its end. */
    @Code("order-ended")
    record Ended(String order, OrderState state) implements OrderRefusal {}

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
    }
}
