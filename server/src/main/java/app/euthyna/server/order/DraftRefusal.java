package app.euthyna.server.order;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Refusal;

/** Refusals about drafts. */
sealed interface DraftRefusal extends Refusal {

    /** It is no draft any more. */
    record AlreadySubmitted(String order, OrderState state) implements DraftRefusal {
        @Override
        public String code() {
            return "order-submitted";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Order %s is already submitted; it is %s.".formatted(order, state.words());
        }
    }
}
