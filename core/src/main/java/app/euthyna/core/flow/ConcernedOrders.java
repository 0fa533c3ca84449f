package app.euthyna.core.flow;

import app.euthyna.core.shared.LineRef;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Which orders' chains an effect changes. */
final class ConcernedOrders implements Effect.Visitor<Set<String>> {

    @Override
    public Set<String> orderSubmitted(Effect.OrderSubmitted effect) {
        return Set.of(effect.order().number());
    }

    @Override
    public Set<String> orderChanged(Effect.OrderChanged effect) {
        return Set.of(effect.after().number());
    }

    @Override
    public Set<String> stateChanged(Effect.StateChanged effect) {
        return Set.of(effect.order());
    }

    @Override
    public Set<String> stockReserved(Effect.StockReserved effect) {
        return Set.of(effect.orderLine().number());
    }

    @Override
    public Set<String> reservationReleased(Effect.ReservationReleased effect) {
        return Set.of(effect.orderLine().number());
    }

    @Override
    public Set<String> dispatchStaged(Effect.DispatchStaged effect) {
        return Set.of(effect.dispatch().order());
    }

    @Override
    public Set<String> dispatchVoided(Effect.DispatchVoided effect) {
        return Set.of(effect.dispatch().order());
    }

    @Override
    public Set<String> dispatchDeparted(Effect.DispatchDeparted effect) {
        return with(effect.dispatch().order(), effect.deliveries());
    }

    @Override
    public Set<String> invoicePosted(Effect.InvoicePosted effect) {
        return ofLines(effect.invoice().lines().stream().map(Invoice.Line::orderLine));
    }

    @Override
    public Set<String> paymentReceived(Effect.PaymentReceived effect) {
        return Set.of();
    }

    @Override
    public Set<String> creditAllocated(Effect.CreditAllocated effect) {
        return Set.of();
    }

    @Override
    public Set<String> quantityCancelled(Effect.QuantityCancelled effect) {
        return Set.of(effect.cancellation().order());
    }

    @Override
    public Set<String> stockReceived(Effect.StockReceived effect) {
        return Set.of();
    }

    @Override
    public Set<String> customerChanged(Effect.CustomerChanged effect) {
        return Set.of();
    }

    @Override
    public Set<String> reservationTransferred(Effect.ReservationTransferred effect) {
        return Set.of(effect.from().number(), effect.to().number());
    }

    @Override
    public Set<String> stockCounted(Effect.StockCounted effect) {
        return Set.of();
    }

    @Override
    public Set<String> depositReceived(Effect.DepositReceived effect) {
        return Set.of(effect.order());
    }

    @Override
    public Set<String> depositApplied(Effect.DepositApplied effect) {
        return Set.of(effect.order());
    }

    @Override
    public Set<String> depositTakenOff(Effect.DepositTakenOff effect) {
        return Set.of(effect.order());
    }

    @Override
    public Set<String> depositMoved(Effect.DepositMoved effect) {
        return Set.of(effect.order(), effect.toOrder());
    }

    @Override
    public Set<String> depositCredited(Effect.DepositCredited effect) {
        return Set.of(effect.order());
    }

    @Override
    public Set<String> allocationTakenOff(Effect.AllocationTakenOff effect) {
        return Set.of();
    }

    @Override
    public Set<String> paymentReversed(Effect.PaymentReversed effect) {
        return Set.of();
    }

    @Override
    public Set<String> refundGiven(Effect.RefundGiven effect) {
        return effect.order().isEmpty() ? Set.of() : Set.of(effect.order());
    }

    @Override
    public Set<String> refundReversed(Effect.RefundReversed effect) {
        return effect.order().isEmpty() ? Set.of() : Set.of(effect.order());
    }

    @Override
    public Set<String> invoiceReversed(Effect.InvoiceReversed effect) {
        return ofLines(effect.invoice().lines().stream().map(Invoice.Line::orderLine));
    }

    @Override
    public Set<String> revenueDeferredAgain(Effect.RevenueDeferredAgain effect) {
        return Set.of();
    }

    @Override
    public Set<String> dispatchReversed(Effect.DispatchReversed effect) {
        return with(effect.dispatch().order(), effect.takenBack());
    }

    @Override
    public Set<String> returnAuthorised(Effect.ReturnAuthorised effect) {
        return effect.authorised().orders();
    }

    @Override
    public Set<String> returnWithdrawn(Effect.ReturnWithdrawn effect) {
        return effect.withdrawn().orders();
    }

    @Override
    public Set<String> returnReceived(Effect.ReturnReceived effect) {
        return effect.before().orders();
    }

    @Override
    public Set<String> returnInspected(Effect.ReturnInspected effect) {
        return effect.before().orders();
    }

    @Override
    public Set<String> creditNotePosted(Effect.CreditNotePosted effect) {
        return ofLines(effect.invoice().lines().stream().map(Invoice.Line::orderLine));
    }

    /** An order, and those that stand with it on the invoices that had billed its goods ahead. */
    private static Set<String> with(String order, List<Effect.BilledAheadDelivery> deliveries) {
        return Stream.concat(Stream.of(order), deliveries.stream().flatMap(one -> one.orders().stream()))
                .collect(Collectors.toSet());
    }

    private static Set<String> ofLines(Stream<LineRef> lines) {
        return lines.map(LineRef::number).collect(Collectors.toSet());
    }

    @Override
    public Set<String> manualEntryPosted(Effect.ManualEntryPosted effect) {
        return Set.of();
    }
}
