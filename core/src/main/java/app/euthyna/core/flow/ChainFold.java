package app.euthyna.core.flow;

import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import java.util.List;

/** What each effect does to a chain: the same effects that the server writes, on values. */
record ChainFold(Chain chain) implements Effect.Visitor<Chain> {

    @Override
    public Chain orderSubmitted(Effect.OrderSubmitted effect) {
        return chain;
    }

    @Override
    public Chain orderChanged(Effect.OrderChanged effect) {
        return isOwn(effect.after().number()) ? chain.withOrder(effect.after()) : chain;
    }

    @Override
    public Chain stateChanged(Effect.StateChanged effect) {
        return isOwn(effect.order()) ? chain.withOrder(chain.order().withState(effect.to())) : chain;
    }

    @Override
    public Chain stockReserved(Effect.StockReserved effect) {
        return reserve(effect.orderLine(), effect.quantity());
    }

    @Override
    public Chain reservationReleased(Effect.ReservationReleased effect) {
        return reserve(effect.orderLine(), effect.quantity().negated());
    }

    @Override
    public Chain dispatchStaged(Effect.DispatchStaged effect) {
        return move(effect.dispatch(), true);
    }

    @Override
    public Chain dispatchVoided(Effect.DispatchVoided effect) {
        return move(effect.dispatch(), false);
    }

    /** Staging takes from what is reserved for the lines; voiding gives it back. */
    private Chain move(Dispatch dispatch, boolean fromReserved) {
        if (!isOwn(dispatch.order())) {
            return chain;
        }
        var moved = chain;
        for (var line : dispatch.lines()) {
            moved = moved.withReserved(
                    line.orderLine(), fromReserved ? line.quantity().negated() : line.quantity());
        }
        return moved.withDispatch(dispatch);
    }

    @Override
    public Chain dispatchDeparted(Effect.DispatchDeparted effect) {
        // an invoice over several orders stands in the chain of each, whole
        var left = isOwn(effect.dispatch().order()) ? chain.withDispatch(effect.dispatch()) : chain;
        for (var delivery : effect.deliveries()) {
            left = left.withDelivery(delivery);
        }
        return left;
    }

    @Override
    public Chain invoicePosted(Effect.InvoicePosted effect) {
        return effect.invoice().bills(chain.order().number()) ? chain.withInvoice(effect.invoice()) : chain;
    }

    @Override
    public Chain paymentReceived(Effect.PaymentReceived effect) {
        return chain;
    }

    @Override
    public Chain creditAllocated(Effect.CreditAllocated effect) {
        return chain;
    }

    @Override
    public Chain quantityCancelled(Effect.QuantityCancelled effect) {
        return isOwn(effect.cancellation().order()) ? chain.withCancellation(effect.cancellation()) : chain;
    }

    @Override
    public Chain stockReceived(Effect.StockReceived effect) {
        return chain;
    }

    @Override
    public Chain customerChanged(Effect.CustomerChanged effect) {
        return chain;
    }

    @Override
    public Chain reservationTransferred(Effect.ReservationTransferred effect) {
        return chain.after(
                        new Effect.ReservationReleased(effect.from(), effect.site(), effect.item(), effect.quantity()))
                .after(new Effect.StockReserved(effect.to(), effect.site(), effect.item(), effect.quantity()));
    }

    @Override
    public Chain stockCounted(Effect.StockCounted effect) {
        return chain;
    }

    @Override
    public Chain depositReceived(Effect.DepositReceived effect) {
        return isOwn(effect.order())
                ? chain.withDeposit(
                        new Deposit(effect.deposit(), effect.order(), effect.on(), effect.amount(), effect.amount()))
                : chain;
    }

    @Override
    public Chain depositApplied(Effect.DepositApplied effect) {
        return isOwn(effect.order())
                ? chain.withDepositUsed(effect.deposit(), Settlement.sum(effect.settlements()))
                : chain;
    }

    @Override
    public Chain depositTakenOff(Effect.DepositTakenOff effect) {
        return isOwn(effect.order())
                ? chain.withDepositUsed(
                        effect.deposit(), Settlement.sum(effect.settlements()).negated())
                : chain;
    }

    @Override
    public Chain depositMoved(Effect.DepositMoved effect) {
        var left = isOwn(effect.order()) ? chain.withDepositUsed(effect.deposit(), effect.amount()) : chain;
        return isOwn(effect.toOrder())
                ? left.withDeposit(new Deposit(
                        effect.toDeposit(), effect.toOrder(), effect.on(), effect.amount(), effect.amount()))
                : left;
    }

    @Override
    public Chain depositCredited(Effect.DepositCredited effect) {
        return isOwn(effect.order()) ? chain.withDepositUsed(effect.deposit(), effect.amount()) : chain;
    }

    @Override
    public Chain allocationTakenOff(Effect.AllocationTakenOff effect) {
        return chain;
    }

    @Override
    public Chain paymentReversed(Effect.PaymentReversed effect) {
        return chain;
    }

    @Override
    public Chain refundGiven(Effect.RefundGiven effect) {
        return isOwn(effect.order()) ? chain.withDepositUsed(effect.source().number(), effect.amount()) : chain;
    }

    @Override
    public Chain refundReversed(Effect.RefundReversed effect) {
        return isOwn(effect.order())
                ? chain.withDepositUsed(
                        effect.source().number(), effect.amount().negated())
                : chain;
    }

    @Override
    public Chain invoiceReversed(Effect.InvoiceReversed effect) {
        return effect.invoice().bills(chain.order().number())
                ? chain.withInvoiceReversed(effect.invoice().number())
                : chain;
    }

    @Override
    public Chain revenueDeferredAgain(Effect.RevenueDeferredAgain effect) {
        return chain;
    }

    @Override
    public Chain dispatchReversed(Effect.DispatchReversed effect) {
        var back = chain;
        if (isOwn(effect.dispatch().order())) {
            back = back.withDispatch(effect.dispatch());
            for (var line : effect.reserved()) {
                back = back.withReserved(line.orderLine(), line.quantity());
            }
        }
        for (var delivery : effect.takenBack()) {
            back = back.withoutDelivery(delivery);
        }
        return back;
    }

    @Override
    public Chain returnAuthorised(Effect.ReturnAuthorised effect) {
        return effect.authorised().touches(chain.order().number()) ? chain.withReturn(effect.authorised()) : chain;
    }

    @Override
    public Chain returnWithdrawn(Effect.ReturnWithdrawn effect) {
        return chain.returnOf(effect.withdrawn().number())
                .map(r -> chain.withReturn(r.asWithdrawn()))
                .orElse(chain);
    }

    @Override
    public Chain returnReceived(Effect.ReturnReceived effect) {
        return chain.returnOf(effect.before().number())
                .map(found -> {
                    var after = found;
                    for (var arrival : effect.arrivals()) {
                        after = after.withParts(arrival.line(), List.of(arrival.part()));
                    }
                    return chain.withReturn(after);
                })
                .orElse(chain);
    }

    @Override
    public Chain returnInspected(Effect.ReturnInspected effect) {
        return chain.returnOf(effect.before().number())
                .map(found -> chain.withReturn(found.inspected(effect.results())))
                .orElse(chain);
    }

    @Override
    public Chain creditNotePosted(Effect.CreditNotePosted effect) {
        return effect.invoice().bills(chain.order().number()) ? chain.withCredit(effect.credit()) : chain;
    }

    @Override
    public Chain manualEntryPosted(Effect.ManualEntryPosted effect) {
        return chain;
    }

    private Chain reserve(LineRef line, Quantity by) {
        return isOwn(line.number()) ? chain.withReserved(line.line(), by) : chain;
    }

    private boolean isOwn(String order) {
        return chain.order().number().equals(order);
    }
}
