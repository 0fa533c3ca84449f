package app.euthyna.core.flow;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Everything that can happen to orders, goods and money: the closed list that decisions answer with. Who, when and why
 * belong to the command and are the same for all its effects.
 */
public sealed interface Effect {

    /** The orders whose chain it changes. */
    Set<String> orders();

    /**
     * What it makes of a chain: the same that the server writes, on values. A chain that it does not concern stays as
     * it is.
     */
    Chain applyTo(Chain chain);

    /** Changes the chain of no order: goods on shelves, money on account, what was agreed. */
    sealed interface Elsewhere extends Effect {
        @Override
        default Set<String> orders() {
            return Set.of();
        }

        @Override
        default Chain applyTo(Chain chain) {
            return chain;
        }
    }

    /** Changes the chain of one order, where it is about one. */
    sealed interface OfOrder extends Effect {
        /** Its number; empty where it is about none. */
        String order();

        @Override
        default Set<String> orders() {
            return order().isEmpty() ? Set.of() : Set.of(order());
        }
    }

    /** Changes the chain of a dispatch's order. */
    sealed interface OfDispatch extends Effect {
        Dispatch dispatch();

        @Override
        default Set<String> orders() {
            return Set.of(dispatch().order());
        }
    }

    /** Changes a return, and with it the chain of every order that its goods were sold on. */
    sealed interface OfReturn extends Effect {
        /** The return as it stood before. */
        Return before();

        @Override
        default Set<String> orders() {
            return before().orders();
        }

        /** The return once this has happened to it. */
        Return after(Return found);

        @Override
        default Chain applyTo(Chain chain) {
            return chain.withReturnAfter(before().number(), this::after);
        }
    }

    /** Changes an invoice, and with it the chain of every order on it. */
    sealed interface OfInvoice extends Effect {
        Invoice invoice();

        @Override
        default Set<String> orders() {
            return invoice().orders();
        }
    }

    /** A draft was submitted; the checks look at it. */
    record OrderSubmitted(Order order) implements Effect {
        @Override
        public Set<String> orders() {
            return Set.of(order().number());
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain;
        }
    }

    /** The content of an order that was submitted has changed. */
    record OrderChanged(Order before, Order after, List<String> differences) implements Effect {
        public OrderChanged {
            differences = List.copyOf(differences);
        }

        @Override
        public Set<String> orders() {
            return Set.of(after().number());
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain.isOf(after().number()) ? chain.withOrder(after()) : chain;
        }
    }

    /** An order was held, cleared, declined, or came to its end. */
    record StateChanged(String order, OrderState from, OrderState to) implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.isOf(order()) ? chain.withOrder(chain.order().withState(to())) : chain;
        }
    }

    /** Free stock is held for an order line. */
    record StockReserved(LineRef orderLine, String site, String item, Quantity quantity) implements Effect {
        @Override
        public Set<String> orders() {
            return Set.of(orderLine().number());
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain.reserved(orderLine(), quantity());
        }
    }

    /** Stock held for an order line is free again. */
    record ReservationReleased(LineRef orderLine, String site, String item, Quantity quantity) implements Effect {
        @Override
        public Set<String> orders() {
            return Set.of(orderLine().number());
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain.reserved(orderLine(), quantity().negated());
        }
    }

    /** Reserved goods were picked. */
    record DispatchStaged(Dispatch dispatch) implements OfDispatch {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.moved(dispatch(), true);
        }
    }

    /** Picked goods went back to the shelf, where they are reserved for their own order again. */
    record DispatchVoided(Dispatch dispatch) implements OfDispatch {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.moved(dispatch(), false);
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
        public Set<String> orders() {
            return BilledAheadDelivery.with(dispatch().order(), deliveries());
        }

        @Override
        public Chain applyTo(Chain chain) {
            // an invoice over several orders stands in the chain of each, whole
            var left = chain.isOf(dispatch().order()) ? chain.withDispatch(dispatch()) : chain;
            for (var delivery : deliveries()) {
                left = left.withDelivery(delivery);
            }
            return left;
        }
    }

    /** An invoice was posted. */
    record InvoicePosted(Invoice invoice) implements OfInvoice {
        @Override
        public Chain applyTo(Chain chain) {
            return invoice().bills(chain.order().number()) ? chain.withInvoice(invoice()) : chain;
        }
    }

    /** Money came in; what it does not settle at once stays on account as customer credit. */
    record PaymentReceived(String payment, String customer, Money amount, List<Settlement> settlements)
            implements Elsewhere {
        public PaymentReceived {
            settlements = List.copyOf(settlements);
        }
    }

    /** Customer credit, left from an earlier payment, a deposit or a credit note, settles invoices. */
    record CreditAllocated(DocumentRef source, String customer, List<Settlement> settlements) implements Elsewhere {
        public CreditAllocated {
            settlements = List.copyOf(settlements);
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
        public Set<String> orders() {
            return Set.of(cancellation().order());
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain.isOf(cancellation().order()) ? chain.withCancellation(cancellation()) : chain;
        }
    }

    /** Goods came in at a value. */
    record StockReceived(String receipt, String site, String item, Quantity quantity, Money value)
            implements Elsewhere {}

    /** What the company agreed with a customer is different now: a limit, a block, when invoices count as overdue. */
    record CustomerChanged(String customer) implements Elsewhere {}

    /** What was held on a shelf for one order line is held for another: a controller decided so. */
    record ReservationTransferred(LineRef from, LineRef to, String site, String item, Quantity quantity)
            implements Effect {
        @Override
        public Set<String> orders() {
            return Set.of(from().number(), to().number());
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain.after(new Effect.ReservationReleased(from(), site(), item(), quantity()))
                    .after(new Effect.StockReserved(to(), site(), item(), quantity()));
        }
    }

    /**
     * A count found more or less than the books say.
     *
     * @param quantity counted less on hand; negative where something is missing
     * @param value by which the shelf's value changes, of the same sign
     */
    record StockCounted(String correction, String site, String item, Quantity quantity, Money value)
            implements Elsewhere {}

    /** Money came in ahead for an order. */
    record DepositReceived(String deposit, String customer, String order, LocalDate on, Money amount)
            implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.isOf(order()) ? chain.withDeposit(Deposit.of(deposit(), order(), on(), amount())) : chain;
        }
    }

    /** A deposit settles invoices of its order. */
    record DepositApplied(String deposit, String customer, String order, List<Settlement> settlements)
            implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.withDepositUsed(deposit(), Settlement.sum(settlements()));
        }
    }

    /** What a deposit had settled is open again, and the deposit unapplied. */
    record DepositTakenOff(String deposit, String customer, String order, List<Settlement> settlements)
            implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.withDepositUsed(
                    deposit(), Settlement.sum(settlements()).negated());
        }
    }

    /** What is unapplied of a deposit goes on as a deposit for another order of the customer. */
    record DepositMoved(
            String deposit, String order, String toDeposit, String toOrder, String customer, LocalDate on, Money amount)
            implements Effect {
        @Override
        public Set<String> orders() {
            return Set.of(order(), toOrder());
        }

        @Override
        public Chain applyTo(Chain chain) {
            var left = chain.withDepositUsed(deposit(), amount());
            return chain.isOf(toOrder()) ? left.withDeposit(Deposit.of(toDeposit(), toOrder(), on(), amount())) : left;
        }
    }

    /** What is unapplied of a deposit becomes customer credit. */
    record DepositCredited(String deposit, String order, String customer, Money amount) implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.withDepositUsed(deposit(), amount());
        }
    }

    /**
     * A deposit bounced, or was booked in error: its entries are mirrored. Nothing of it may be applied or used as
     * customer credit.
     *
     * @param credited what of it had become customer credit, which there is no more
     * @param cameFrom the deposit that it was moved from, which is unapplied by so much again; empty where the money
     *     came in with it
     */
    record DepositReversed(
            String deposit,
            String customer,
            String order,
            Money amount,
            Money credited,
            Optional<Deposit.Origin> cameFrom)
            implements Effect {
        @Override
        public Set<String> orders() {
            return Stream.concat(Stream.of(order()), cameFrom().stream().map(Deposit.Origin::order))
                    .collect(Collectors.toSet());
        }

        @Override
        public Chain applyTo(Chain chain) {
            var taken = chain.withDepositReversed(deposit());
            return cameFrom()
                    .map(origin -> taken.withDepositUsed(origin.deposit(), amount().negated()))
                    .orElse(taken);
        }
    }

    /** What a payment, or credit from it, had settled is open again; the money is customer credit. */
    record AllocationTakenOff(DocumentRef source, String customer, List<Settlement> settlements) implements Elsewhere {}

    /** A payment bounced: all that it settled is open again and nothing of it is left. */
    record PaymentReversed(String payment, String customer, Money amount, List<Settlement> settlements)
            implements Elsewhere {}

    /**
     * Money was refunded.
     *
     * @param source the deposit, or the document whose customer credit it was
     * @param order of the deposit, where it was one that had not become credit; empty otherwise
     */
    record RefundGiven(String refund, String customer, DocumentRef source, String order, Money amount)
            implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.isOf(order()) ? chain.withDepositUsed(source().number(), amount()) : chain;
        }
    }

    /**
     * Money that was refunded did not reach the customer: its entry is mirrored, and it is theirs again as it was.
     *
     * @param order of the deposit, where it was one that had not become credit; empty otherwise
     */
    record RefundReversed(String refund, String customer, DocumentRef source, String order, Money amount)
            implements OfOrder {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.isOf(order()) ? chain.withDepositUsed(source().number(), amount().negated()) : chain;
        }
    }

    /**
     * An invoice was taken back: its entry is mirrored and what it had billed is to be billed anew. It must have
     * nothing set against it.
     */
    record InvoiceReversed(Invoice invoice) implements OfInvoice {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.withInvoiceReversed(invoice().number());
        }
    }

    /**
     * Goods of a dispatch had left after an invoice billed them ahead, and that invoice is taken back: they are goods
     * out, not billed, and nothing is earned with them.
     */
    record RevenueDeferredAgain(String dispatch, List<BilledAheadDelivery> deliveries) implements Elsewhere {
        public RevenueDeferredAgain {
            deliveries = List.copyOf(deliveries);
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
        public Set<String> orders() {
            return BilledAheadDelivery.with(dispatch().order(), takenBack());
        }

        @Override
        public Chain applyTo(Chain chain) {
            var back = chain;
            if (chain.isOf(dispatch().order())) {
                back = back.withDispatch(dispatch());
                for (var line : reserved()) {
                    back = back.withReserved(line.orderLine(), line.quantity());
                }
            }
            for (var delivery : takenBack()) {
                back = back.withoutDelivery(delivery);
            }
            return back;
        }
    }

    /** A customer may send goods back. */
    record ReturnAuthorised(Return authorised) implements Effect {
        @Override
        public Set<String> orders() {
            return authorised().orders();
        }

        @Override
        public Chain applyTo(Chain chain) {
            return authorised().touches(chain.order().number()) ? chain.withReturn(authorised()) : chain;
        }
    }

    /** What has not come back of a return may not come any more. */
    record ReturnWithdrawn(Return before) implements OfReturn {
        @Override
        public Return after(Return found) {
            return found.asWithdrawn();
        }
    }

    /** Goods came back, into inspection. */
    record ReturnReceived(Return before, List<Arrival> arrivals) implements OfReturn {
        public ReturnReceived {
            arrivals = List.copyOf(arrivals);
        }

        @Override
        public Return after(Return found) {
            var after = found;
            for (var arrival : arrivals()) {
                after = after.withParts(arrival.line(), List.of(arrival.part()));
            }
            return after;
        }
    }

    /** What came back of a return's line. */
    record Arrival(int line, Return.Part part) {}

    /** It was decided what becomes of goods in inspection. */
    record ReturnInspected(Return before, List<InspectionResult> results) implements OfReturn {
        public ReturnInspected {
            results = List.copyOf(results);
        }

        @Override
        public Return after(Return found) {
            return found.inspected(results());
        }
    }

    /**
     * What was decided on goods in inspection is taken back, at the values at which it was decided.
     *
     * @param results the outcomes that take the others back
     */
    record InspectionReversed(Return before, List<InspectionResult> results) implements OfReturn {
        public InspectionReversed {
            results = List.copyOf(results);
        }

        @Override
        public Return after(Return found) {
            return found.inspected(results());
        }
    }

    /** The goods of a return never came: they are expected again. Nothing may be decided on them. */
    record ReceiptReversed(Return before) implements OfReturn {
        @Override
        public Return after(Return found) {
            return found.withoutReceipts();
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
    record CreditNotePosted(CreditNote credit, Invoice invoice, Money settled) implements OfInvoice {
        @Override
        public Chain applyTo(Chain chain) {
            return invoice().bills(chain.order().number()) ? chain.withCredit(credit()) : chain;
        }
    }

    /**
     * A credit note was posted by mistake: its entry is mirrored, and what it had settled of its invoice is open again.
     * Of its credit nothing may be used elsewhere or refunded.
     */
    record CreditNoteReversed(CreditNote credit, Invoice invoice, List<Settlement> settlements) implements OfInvoice {
        public CreditNoteReversed {
            settlements = List.copyOf(settlements);
        }

        @Override
        public Chain applyTo(Chain chain) {
            return chain.withCreditReversed(credit());
        }
    }

    /** Changes what of an invoice is settled without money. */
    sealed interface OfReduction extends Effect {
        Reduction reduction();

        @Override
        default Set<String> orders() {
            return reduction().orders();
        }
    }

    /** A part of an invoice was written off, or taken as a discount for paying early. */
    record InvoiceReduced(Reduction reduction) implements OfReduction {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.withReduction(reduction());
        }
    }

    /** What was written off, or taken as a discount, is open again: its entry is mirrored. */
    record ReductionReversed(Reduction reduction) implements OfReduction {
        @Override
        public Chain applyTo(Chain chain) {
            return chain.withoutReduction(reduction());
        }
    }

    /** An entry that no document brought about, with the reason for it. */
    record ManualEntryPosted(String number, List<ManualLine> lines) implements Elsewhere {}

    /** An amount on an account, debit positive. */
    record ManualLine(String account, Money amount) {}
}
