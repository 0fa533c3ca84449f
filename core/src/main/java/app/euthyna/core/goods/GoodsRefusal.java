package app.euthyna.core.goods;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;

/** Why goods can't be staged, voided or sent off. */
public sealed interface GoodsRefusal extends Refusal {

    /** More than the line has still to ship. */
    @Code("more-than-open")
    record MoreThanOpen(String order, int line, Quantity asked, Quantity open) implements GoodsRefusal {}

    /** Nothing of the order is left to ship. */
    @Code("more-than-open")
    record NothingOpen(String order) implements GoodsRefusal {}

    /** The line is open, but no stock is held for it. */
    @Code("not-reserved")
    record NotReserved(String order, int line, Quantity asked, Quantity reserved) implements GoodsRefusal {}

    /** No stock is held for any line of the order. */
    @Code("not-reserved")
    record NothingReserved(String order) implements GoodsRefusal {}

    /** A count finds less than what is staged for orders. */
    @Code("staged-goods")
    record Staged(String item, Quantity counted, Quantity staged) implements GoodsRefusal {}

    /** The two lines are not of the same goods at the same store. */
    @Code("not-reserved")
    record OtherGoods(String from, String to) implements GoodsRefusal {}

    /** The goods are gone. */
    @Code("departed-goods")
    record AlreadyDeparted(String dispatch) implements GoodsRefusal, Refusal.WrongState {}

    /** The note was voided. */
    @Code("already-reversed")
    record AlreadyVoided(String dispatch) implements GoodsRefusal, Refusal.WrongState {}
}
