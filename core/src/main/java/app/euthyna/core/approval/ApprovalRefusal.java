package app.euthyna.core.approval;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Refusal;

/** Why a step of an approval can't be taken. */
public sealed interface ApprovalRefusal extends Refusal {

    /** The order does not wait for a decision. */
    record NotAwaiting(String order, OrderState state) implements ApprovalRefusal {
        @Override
        public String code() {
            return "not-awaiting";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Order %s is %s; it does not wait for a decision.".formatted(order, state.words());
        }
    }

    /** Only who wrote the order may take the request back. */
    record NotTheAuthor(String order, String author, String username) implements ApprovalRefusal {
        @Override
        public String code() {
            return "not-authorised";
        }

        @Override
        public Kind kind() {
            return Kind.NOT_AUTHORISED;
        }

        @Override
        public String sentence() {
            return "Only %s, who wrote order %s, may recall it; you are %s.".formatted(author, order, username);
        }

        @Override
        public String instead() {
            return "A controller can send it back instead.";
        }
    }
}
