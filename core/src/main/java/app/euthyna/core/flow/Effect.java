package app.euthyna.core.flow;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;

/**
 * Everything that can happen to orders, goods and money: the closed list that decisions answer with. Who, when and why
 * belong to the command and are the same for all its effects.
 */
public sealed interface Effect {

    <T> T accept(Visitor<T> visitor);

    /** The orders whose chain it changes. */
    default Set<String> orders() {
        return accept(new ConcernedOrders());
    }

    /** A draft was submitted; the checks look at it. */
    record OrderSubmitted(Order order) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.orderSubmitted(this);
        }
    }

    /** The content of an order that was submitted has changed. */
    record OrderChanged(Order before, Order after, List<String> differences) implements Effect {
        public OrderChanged {
            differences = List.copyOf(differences);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.orderChanged(this);
        }
    }

    /** An order was held, cleared, declined, or came to its end. */
    record StateChanged(String order, OrderState from, OrderState to) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.stateChanged(this);
        }
    }

    /** Free stock is held for an order line. */
    record StockReserved(LineRef orderLine, String site, String item, Quantity quantity) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.stockReserved(this);
        }
    }

    /** Stock held for an order line is free again. */
    record ReservationReleased(LineRef orderLine, String site, String item, Quantity quantity) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.reservationReleased(this);
        }
    }

    /** Reserved goods were picked. */
    record DispatchStaged(Dispatch dispatch) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.dispatchStaged(this);
        }
    }

    /** Picked goods went back to the shelf, where they are reserved for their own order again. */
    record DispatchVoided(Dispatch dispatch) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.dispatchVoided(this);
        }
    }

    /**
     * Staged goods left the building.
     *
     * @param atNoCharge the order's lines that are never billed
     * @param deliveries what was billed ahead and has left now
     */
    record DispatchDeparted(Dispatch dispatch, List<Integer> atNoCharge, List<BilledAheadDelivery> deliveries)
            implements Effect {
        public DispatchDeparted {
            atNoCharge = List.copyOf(atNoCharge);
            deliveries = List.copyOf(deliveries);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.dispatchDeparted(this);
        }
    }

    /**
     * Goods that leave after they were billed, with the invoice line that billed them: its deferred revenue is earned
     * by that much.
     *
     * @param orders all that stand on the invoice, whose chains hold it whole
     */
    record BilledAheadDelivery(
            String customer, LineRef invoiceLine, String item, Invoice.Source source, Set<String> orders) {
        public BilledAheadDelivery {
            orders = Set.copyOf(orders);
        }
    }

    /** An invoice was posted. */
    record InvoicePosted(Invoice invoice) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.invoicePosted(this);
        }
    }

    /** Money came in; what it does not settle at once stays on account as customer credit. */
    record PaymentReceived(String payment, String customer, Money amount, List<Settlement> settlements)
            implements Effect {
        public PaymentReceived {
            settlements = List.copyOf(settlements);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.paymentReceived(this);
        }
    }

    /** Customer credit, left from an earlier payment, a deposit or a credit note, settles invoices. */
    record CreditAllocated(DocumentRef source, String customer, List<Settlement> settlements) implements Effect {
        public CreditAllocated {
            settlements = List.copyOf(settlements);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.creditAllocated(this);
        }
    }

    /** An amount set against an invoice. */
    record Settlement(String invoice, Money amount) {

        /** What they come to together; there must be one at least. */
        public static Money sum(List<Settlement> settlements) {
            return settlements.stream()
                    .map(Settlement::amount)
                    .reduce(Money::plus)
                    .orElseThrow();
        }
    }

    /** Open quantity was given up. */
    record QuantityCancelled(Cancellation cancellation) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.quantityCancelled(this);
        }
    }

    /** Goods came in at a value. */
    record StockReceived(String receipt, String site, String item, Quantity quantity, Money value) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.stockReceived(this);
        }
    }

    /** What the company agreed with a customer is different now: a limit, a block, when invoices count as overdue. */
    record CustomerChanged(String customer) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.customerChanged(this);
        }
    }

    /** What was held on a shelf for one order line is held for another: a controller decided so. */
    record ReservationTransferred(LineRef from, LineRef to, String site, String item, Quantity quantity)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.reservationTransferred(this);
        }
    }

    /**
     * A count found more or less than the books say.
     *
     * @param quantity counted less on hand; negative where something is missing
     * @param value by which the shelf's value changes, of the same sign
     */
    record StockCounted(String correction, String site, String item, Quantity quantity, Money value) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.stockCounted(this);
        }
    }

    /** Money came in ahead for an order. */
    record DepositReceived(String deposit, String customer, String order, LocalDate on, Money amount)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.depositReceived(this);
        }
    }

    /** A deposit settles invoices of its order. */
    record DepositApplied(String deposit, String customer, String order, List<Settlement> settlements)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.depositApplied(this);
        }
    }

    /** What a deposit had settled is open again, and the deposit unapplied. */
    record DepositTakenOff(String deposit, String customer, String order, List<Settlement> settlements)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.depositTakenOff(this);
        }
    }

    /** What is unapplied of a deposit goes on as a deposit for another order of the customer. */
    record DepositMoved(
            String deposit, String order, String toDeposit, String toOrder, String customer, LocalDate on, Money amount)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.depositMoved(this);
        }
    }

    /** What is unapplied of a deposit becomes customer credit. */
    record DepositCredited(String deposit, String order, String customer, Money amount) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.depositCredited(this);
        }
    }

    /** What a payment, or credit from it, had settled is open again; the money is customer credit. */
    record AllocationTakenOff(DocumentRef source, String customer, List<Settlement> settlements) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.allocationTakenOff(this);
        }
    }

    /** A payment bounced: all that it settled is open again and nothing of it is left. */
    record PaymentReversed(String payment, String customer, Money amount, List<Settlement> settlements)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.paymentReversed(this);
        }
    }

    /**
     * Money was refunded.
     *
     * @param source the deposit, or the document whose customer credit it was
     * @param order of the deposit, where it was one that had not become credit; empty otherwise
     */
    record RefundGiven(String refund, String customer, DocumentRef source, String order, Money amount)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.refundGiven(this);
        }
    }

    /**
     * Money that was refunded did not reach the customer: its entry is mirrored, and it is theirs again as it was.
     *
     * @param order of the deposit, where it was one that had not become credit; empty otherwise
     */
    record RefundReversed(String refund, String customer, DocumentRef source, String order, Money amount)
            implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.refundReversed(this);
        }
    }

    /**
     * An invoice was taken back: its entry is mirrored and what it had billed is to be billed anew. It must have
     * nothing set against it.
     */
    record InvoiceReversed(Invoice invoice) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.invoiceReversed(this);
        }
    }

    /**
     * Goods of a dispatch had left after an invoice billed them ahead, and that invoice is taken back: they are goods
     * out, not billed, and nothing is earned with them.
     */
    record RevenueDeferredAgain(String dispatch, List<BilledAheadDelivery> deliveries) implements Effect {
        public RevenueDeferredAgain {
            deliveries = List.copyOf(deliveries);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.revenueDeferredAgain(this);
        }
    }

    /**
     * A dispatch had never left: its entries are mirrored, its goods lie on the shelf again.
     *
     * @param dispatch reversed by now
     * @param reserved the lines whose goods are held for them again; the others changed their store or item since
     * @param takenBack what of invoices billed ahead it had earned
     */
    record DispatchReversed(Dispatch dispatch, List<Dispatch.Line> reserved, List<BilledAheadDelivery> takenBack)
            implements Effect {
        public DispatchReversed {
            reserved = List.copyOf(reserved);
            takenBack = List.copyOf(takenBack);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.dispatchReversed(this);
        }
    }

    /** A customer may send goods back. */
    record ReturnAuthorised(Return authorised) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.returnAuthorised(this);
        }
    }

    /** What has not come back of a return may not come any more. */
    record ReturnWithdrawn(Return withdrawn) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.returnWithdrawn(this);
        }
    }

    /** Goods came back, into inspection. */
    record ReturnReceived(Return before, List<Arrival> arrivals) implements Effect {
        public ReturnReceived {
            arrivals = List.copyOf(arrivals);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.returnReceived(this);
        }
    }

    /** What came back of a return's line. */
    record Arrival(int line, Return.Part part) {}

    /** It was decided what becomes of goods in inspection. */
    record ReturnInspected(Return before, List<InspectionResult> results) implements Effect {
        public ReturnInspected {
            results = List.copyOf(results);
        }

        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.returnInspected(this);
        }
    }

    /** What becomes of a part of what came back. */
    record InspectionResult(int line, int part, Return.Outcome outcome) {}

    /**
     * A credit note was posted.
     *
     * @param invoice that it is for
     * @param settled what of it is set against its invoice; the rest is customer credit
     */
    record CreditNotePosted(CreditNote credit, Invoice invoice, Money settled) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.creditNotePosted(this);
        }
    }

    /** An entry that no document brought about, with the reason for it. */
    record ManualEntryPosted(String number, List<ManualLine> lines) implements Effect {
        @Override
        public <T> T accept(Visitor<T> visitor) {
            return visitor.manualEntryPosted(this);
        }
    }

    /** An amount on an account, debit positive. */
    record ManualLine(String account, Money amount) {}

    /** One method a case: a new case does not compile until everybody concerned has an answer. */
    interface Visitor<T> {
        T orderSubmitted(OrderSubmitted effect);

        T orderChanged(OrderChanged effect);

        T stateChanged(StateChanged effect);

        T stockReserved(StockReserved effect);

        T reservationReleased(ReservationReleased effect);

        T dispatchStaged(DispatchStaged effect);

        T dispatchVoided(DispatchVoided effect);

        T dispatchDeparted(DispatchDeparted effect);

        T invoicePosted(InvoicePosted effect);

        T paymentReceived(PaymentReceived effect);

        T creditAllocated(CreditAllocated effect);

        T quantityCancelled(QuantityCancelled effect);

        T stockReceived(StockReceived effect);

        T customerChanged(CustomerChanged effect);

        T reservationTransferred(ReservationTransferred effect);

        T stockCounted(StockCounted effect);

        T depositReceived(DepositReceived effect);

        T depositApplied(DepositApplied effect);

        T depositTakenOff(DepositTakenOff effect);

        T depositMoved(DepositMoved effect);

        T depositCredited(DepositCredited effect);

        T allocationTakenOff(AllocationTakenOff effect);

        T paymentReversed(PaymentReversed effect);

        T refundGiven(RefundGiven effect);

        T refundReversed(RefundReversed effect);

        T invoiceReversed(InvoiceReversed effect);

        T revenueDeferredAgain(RevenueDeferredAgain effect);

        T dispatchReversed(DispatchReversed effect);

        T returnAuthorised(ReturnAuthorised effect);

        T returnWithdrawn(ReturnWithdrawn effect);

        T returnReceived(ReturnReceived effect);

        T returnInspected(ReturnInspected effect);

        T creditNotePosted(CreditNotePosted effect);

        T manualEntryPosted(ManualEntryPosted effect);
    }
}
