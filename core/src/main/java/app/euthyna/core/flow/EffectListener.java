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
    public Void reserved(Effect.Reserved effect) {
        return null;
    }

    @Override
    public Void released(Effect.Released effect) {
        return null;
    }

    @Override
    public Void staged(Effect.Staged effect) {
        return null;
    }

    @Override
    public Void voided(Effect.Voided effect) {
        return null;
    }

    @Override
    public Void departed(Effect.Departed effect) {
        return null;
    }

    @Override
    public Void invoiced(Effect.Invoiced effect) {
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
    public Void handedOver(Effect.HandedOver effect) {
        return null;
    }

    @Override
    public Void stockCorrected(Effect.StockCorrected effect) {
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
    public Void settlementTakenOff(Effect.SettlementTakenOff effect) {
        return null;
    }

    @Override
    public Void paymentReversed(Effect.PaymentReversed effect) {
        return null;
    }

    @Override
    public Void refunded(Effect.Refunded effect) {
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
    public Void saleUndone(Effect.SaleUndone effect) {
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
    public Void credited(Effect.Credited effect) {
        return null;
    }

    @Override
    public Void manuallyPosted(Effect.ManuallyPosted effect) {
        return null;
    }
}
