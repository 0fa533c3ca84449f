package app.euthyna.core.check;

import app.euthyna.core.shared.Refusal;

/** Why an order can't be declined any more. */
public sealed interface DecidingRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.WRONG_STATE;
    }

    /** Goods are gone or billed. */
    record GoodsLeft(String order) implements DecidingRefusal {
        @Override
        public String code() {
            return "departed-goods";
        }

        @Override
        public String sentence() {
            return "Goods of order %s have left or are billed; it can't be declined.".formatted(order);
        }

        @Override
        public String instead() {
            return "Cancel the rest instead.";
        }
    }

    /** Goods are picked. */
    record GoodsStaged(String order, String dispatch) implements DecidingRefusal {
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
}
