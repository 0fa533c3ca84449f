package app.euthyna.core.flow;

import app.euthyna.core.shared.LineRef;
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
    public Set<String> reserved(Effect.Reserved effect) {
        return Set.of(effect.orderLine().number());
    }

    @Override
    public Set<String> released(Effect.Released effect) {
        return Set.of(effect.orderLine().number());
    }

    @Override
    public Set<String> staged(Effect.Staged effect) {
        return Set.of(effect.dispatch().order());
    }

    @Override
    public Set<String> voided(Effect.Voided effect) {
        return Set.of(effect.dispatch().order());
    }

    @Override
    public Set<String> departed(Effect.Departed effect) {
        return Set.of(effect.dispatch().order());
    }

    @Override
    public Set<String> invoiced(Effect.Invoiced effect) {
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
    public Set<String> handedOver(Effect.HandedOver effect) {
        return Set.of(effect.from().number(), effect.to().number());
    }

    @Override
    public Set<String> stockCorrected(Effect.StockCorrected effect) {
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
    public Set<String> settlementTakenOff(Effect.SettlementTakenOff effect) {
        return Set.of();
    }

    @Override
    public Set<String> paymentReversed(Effect.PaymentReversed effect) {
        return Set.of();
    }

    @Override
    public Set<String> refunded(Effect.Refunded effect) {
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
    public Set<String> saleUndone(Effect.SaleUndone effect) {
        return Set.of();
    }

    @Override
    public Set<String> dispatchReversed(Effect.DispatchReversed effect) {
        return Set.of(effect.dispatch().order());
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
    public Set<String> credited(Effect.Credited effect) {
        return ofLines(effect.invoice().lines().stream().map(Invoice.Line::orderLine));
    }

    private static Set<String> ofLines(Stream<LineRef> lines) {
        return lines.map(LineRef::number).collect(Collectors.toSet());
    }

    @Override
    public Set<String> manuallyPosted(Effect.ManuallyPosted effect) {
        return Set.of();
    }
}
