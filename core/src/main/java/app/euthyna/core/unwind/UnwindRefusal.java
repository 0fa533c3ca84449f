package app.euthyna.core.unwind;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.List;

/** What stands in the way of unwinding something. */
public sealed interface UnwindRefusal extends Refusal.WrongState {

    /** Goods of the order are gone. */
    @Code("departed-goods")
    record DepartedGoods(String order, String dispatch) implements UnwindRefusal {}

    /** Work of the order is billed. */
    @Code("already-billed")
    record Billed(String order, String invoice) implements UnwindRefusal {}

    /** A deposit hangs on what would be cancelled. */
    @Code("deposit-attached")
    record DepositAttached(String order, List<String> deposits, Money unapplied) implements UnwindRefusal {}

    /** Part of the invoice is credited. */
    @Code("already-credited")
    record AlreadyCredited(String invoice, List<String> credits) implements UnwindRefusal {}

    /** Goods of the document came back or are allowed back. */
    @Code("already-returned")
    record AlreadyReturned(String document, String goods, boolean received) implements UnwindRefusal {
        @Override
        public String variant() {
            return received ? "received" : "";
        }
    }

    /** The dispatch is billed. */
    @Code("already-billed")
    record DispatchBilled(String dispatch, String invoice) implements UnwindRefusal {}

    /** All of the money settles invoices. */
    @Code("payment-attached")
    record PaymentAttached(String document, List<String> invoices) implements UnwindRefusal {}

    /** There is no money. */
    @Code("more-than-open")
    record NothingToGiveBack(String document) implements UnwindRefusal {}

    /** The money is customer credit, which is what was asked for. */
    @Code("more-than-open")
    record CreditAlready(String document, Money credit) implements UnwindRefusal {}

    /** The money went on as another deposit. */
    @Code("deposit-attached")
    record DepositMoved(String deposit, List<String> movedTo) implements UnwindRefusal {}

    /** The payment service was asked to pay it out and has not answered. */
    @Code("already-refunded")
    record MoneyOnItsWay(String refund) implements UnwindRefusal {}

    /**
     * The credit note had taken back the billing of goods that had not left, and those are no longer as open as they
     * were.
     */
    @Code("more-than-open")
    record AheadNoLonger(String credit, String order, int line, Quantity asked, Quantity open)
            implements UnwindRefusal {}

    /** Goods that were restocked are not on the shelf any more, or are staged. */
    @Code("goods-gone")
    record GoodsGone(String item, String site, Quantity asked, Quantity there) implements UnwindRefusal {}

    /** Goods of the return are credited. */
    @Code("already-credited")
    record ReturnCredited(String goods, List<String> credits) implements UnwindRefusal {}

    /** Nothing of the return was booked in. */
    @Code("already-reversed")
    record NothingReceived(String goods) implements UnwindRefusal {}

    /** Nothing of the order is open. */
    @Code("more-than-open")
    record NothingOpen(String order) implements UnwindRefusal {}

    /** More than the line has open. */
    @Code("more-than-open")
    record MoreThanOpen(String order, int line, Quantity asked, Quantity open) implements UnwindRefusal {

        @Override
        public Kind kind() {
            return Kind.RULE_NOT_MET;
        }
    }

    /** Part of what is named is staged. */
    @Code("staged-goods")
    record StagedGoods(String order, int line, Quantity asked, Quantity notStaged, String dispatch)
            implements UnwindRefusal {}

    /** The chain is no longer what the plan was made for. */
    @Code("plan-changed")
    record PlanChanged(String subject) implements UnwindRefusal {}
}
