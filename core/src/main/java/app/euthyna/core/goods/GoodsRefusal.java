package app.euthyna.core.goods;

import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;

/** Why goods can't be staged, voided or sent off. */
public sealed interface GoodsRefusal extends Refusal {

    @Override
    default Kind kind() {
        return Kind.RULE_NOT_MET;
    }

    /** More than the line has still to ship. */
    record MoreThanOpen(String order, int line, Quantity asked, Quantity open) implements GoodsRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "Line %d of order %s has %s to stage; %s were requested.".formatted(line, order, open, asked);
        }
    }

    /** Nothing of the order is left to ship. */
    record NothingOpen(String order) implements GoodsRefusal {
        @Override
        public String code() {
            return "more-than-open";
        }

        @Override
        public String sentence() {
            return "Order %s has nothing left to stage.".formatted(order);
        }
    }

    /** The line is open, but no stock is held for it. */
    record NotReserved(String order, int line, Quantity asked, Quantity reserved) implements GoodsRefusal {
        @Override
        public String code() {
            return "not-reserved";
        }

        @Override
        public String sentence() {
            return "Line %d of order %s has %s reserved; %s were requested.".formatted(line, order, reserved, asked);
        }

        @Override
        public String instead() {
            return "Stage the reserved quantity, or wait for stock.";
        }
    }

    /** No stock is held for any line of the order. */
    record NothingReserved(String order) implements GoodsRefusal {
        @Override
        public String code() {
            return "not-reserved";
        }

        @Override
        public String sentence() {
            return "Nothing is reserved for order %s, so there is nothing to stage.".formatted(order);
        }
    }

    /** A count finds less than what is staged for orders. */
    record Staged(String item, Quantity counted, Quantity staged) implements GoodsRefusal {
        @Override
        public String code() {
            return "staged-goods";
        }

        @Override
        public String sentence() {
            return "%s of item %s were counted, but %s are staged for orders.".formatted(counted, item, staged);
        }

        @Override
        public String instead() {
            return "Void the staged dispatches that cannot be shipped, then count again.";
        }
    }

    /** The two lines are not of the same goods at the same store. */
    record OtherGoods(String from, String to) implements GoodsRefusal {
        @Override
        public String code() {
            return "not-reserved";
        }

        @Override
        public String sentence() {
            return "Line %s and line %s are not for the same item and store.".formatted(from, to);
        }
    }

    /** The goods are gone. */
    record AlreadyDeparted(String dispatch) implements GoodsRefusal {
        @Override
        public String code() {
            return "departed-goods";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "The goods of dispatch %s have departed.".formatted(dispatch);
        }
    }

    /** The note was voided. */
    record AlreadyVoided(String dispatch) implements GoodsRefusal {
        @Override
        public String code() {
            return "already-reversed";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Dispatch %s is voided; its goods are back in stock.".formatted(dispatch);
        }

        @Override
        public String instead() {
            return "Stage the order again.";
        }
    }
}
