package app.euthyna.core.flow;

/** A visitor for those who care for a few effects only. */
public abstract class EffectListener implements Effect.Visitor<Void> {

    @Override
    public Void orderSubmitted(Effect.OrderSubmitted effect) {
        return null;
    }

    @Override
    public Void orderChanged(Effect.OrderChanged effect) {
        return null;
    }

    @Override
    public Void stateChanged(Effect.StateChanged effect) {
        return null;
    }

    @Override
    public Void stockReserved(Effect.StockReserved effect) {
        return null;
    }

    @Override
    public Void reservationReleased(Effect.ReservationReleased effect) {
        return null;
    }

    @Override
    public Void dispatchStaged(Effect.DispatchStaged effect) {
        return null;
    }

    @Override
    public Void dispatchVoided(Effect.DispatchVoided effect) {
        return null;
    }

    @Override
    public Void dispatchDeparted(Effect.DispatchDeparted effect) {
        return null;
    }

    @Override
    public Void invoicePosted(Effect.InvoicePosted effect) {
        return null;
    }

    @Override
    public Void paymentReceived(Effect.PaymentReceived effect) {
        return null;
    }

    @Override
    public Void creditAllocated(Effect.CreditAllocated effect) {
        return null;
    }

    @Override
    public Void quantityCancelled(Effect.QuantityCancelled effect) {
        return null;
    }

    @Override
    public Void stockReceived(Effect.StockReceived effect) {
        return null;
    }

    @Override
    public Void customerChanged(Effect.CustomerChanged effect) {
        return null;
    }

    @Override
    public Void reservationTransferred(Effect.ReservationTransferred effect) {
        return null;
    }

    @Override
    public Void stockCounted(Effect.StockCounted effect) {
        return null;
    }

    @Override
    public Void depositReceived(Effect.DepositReceived effect) {
        return null;
    }

    @Override
    public Void depositApplied(Effect.DepositApplied effect) {
        return null;
    }

    @Override
    public Void depositTakenOff(Effect.DepositTakenOff effect) {
        return null;
    }

    @Override
    public Void depositMoved(Effect.DepositMoved effect) {
        return null;
    }

    @Override
    public Void depositCredited(Effect.DepositCredited effect) {
        return null;
    }

    @Override
    public Void allocationTakenOff(Effect.AllocationTakenOff effect) {
        return null;
    }

    @Override
    public Void paymentReversed(Effect.PaymentReversed effect) {
        return null;
    }

    @Override
    public Void refundGiven(Effect.RefundGiven effect) {
        return null;
    }

    @Override
    public Void refundReversed(Effect.RefundReversed effect) {
        return null;
    }

    @Override
    public Void invoiceReversed(Effect.InvoiceReversed effect) {
        return null;
    }

    @Override
    public Void revenueDeferredAgain(Effect.RevenueDeferredAgain effect) {
        return null;
    }

    @Override
    public Void dispatchReversed(Effect.DispatchReversed effect) {
        return null;
    }

    @Override
    public Void returnAuthorised(Effect.ReturnAuthorised effect) {
        return null;
    }

    @Override
    public Void returnWithdrawn(Effect.ReturnWithdrawn effect) {
        return null;
    }

    @Override
    public Void returnReceived(Effect.ReturnReceived effect) {
        return null;
    }

    @Override
    public Void returnInspected(Effect.ReturnInspected effect) {
        return null;
    }

    @Override
    public Void creditNotePosted(Effect.CreditNotePosted effect) {
        return null;
    }

    @Override
    public Void manualEntryPosted(Effect.ManualEntryPosted effect) {
        return null;
    }
}
