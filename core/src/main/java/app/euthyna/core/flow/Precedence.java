package app.euthyna.core.flow;

import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Nothing is dated before what it comes from (section 14): a dispatch not before its order, an invoice not before the
 * departures that it bills, a reversal not before the original. One rule over all effects, whoever decided on them.
 */
public final class Precedence {

    private static final EffectHandlers<Origin, Boolean> ORIGINS = EffectHandlers.<Origin>deeds()
            .on(Effect.DispatchDeparted.class, Origin::dispatchDeparted)
            .on(Effect.DispatchReversed.class, Origin::dispatchReversed)
            .on(Effect.RevenueDeferredAgain.class, Origin::revenueDeferredAgain)
            .on(Effect.InvoicePosted.class, Origin::invoicePosted)
            .on(Effect.InvoiceReversed.class, Origin::invoiceReversed)
            .on(Effect.PaymentReceived.class, Origin::paymentReceived)
            .on(Effect.CreditAllocated.class, Origin::creditAllocated)
            .on(Effect.AllocationTakenOff.class, Origin::allocationTakenOff)
            .on(Effect.PaymentReversed.class, Origin::paymentReversed)
            .on(Effect.DepositReceived.class, Origin::depositReceived)
            .on(Effect.DepositApplied.class, Origin::depositApplied)
            .on(Effect.DepositTakenOff.class, Origin::depositTakenOff)
            .on(Effect.DepositMoved.class, Origin::depositMoved)
            .on(Effect.DepositCredited.class, Origin::depositCredited)
            .on(Effect.DepositReversed.class, Origin::depositReversed)
            .on(Effect.RefundGiven.class, Origin::refundGiven)
            .on(Effect.RefundReversed.class, Origin::refundReversed)
            .on(Effect.QuantityCancelled.class, Origin::quantityCancelled)
            .on(Effect.ReturnReceived.class, Origin::returnReceived)
            .on(Effect.ReturnInspected.class, Origin::returnInspected)
            .on(Effect.InspectionReversed.class, Origin::inspectionReversed)
            .on(Effect.ReceiptReversed.class, Origin::receiptReversed)
            .on(Effect.CreditNotePosted.class, Origin::creditNotePosted)
            .on(Effect.CreditNoteReversed.class, Origin::creditNoteReversed)
            .on(Effect.InvoiceReduced.class, Origin::invoiceReduced)
            .on(Effect.ReductionReversed.class, Origin::reductionReversed)
            .othersDoNotConcernIt();

    private Precedence() {}

    /** When the documents were dated that effects come from. */
    public interface Origins {

        /** The date of an order, dispatch, invoice, payment, credit note, deposit or refund. */
        Optional<LocalDate> dateOf(DocumentRef document);

        /** When money of a source was last set against an invoice. */
        Optional<LocalDate> settled(DocumentRef source, String invoice);

        /** When money was last set free again that counts with a source: taken off an invoice, turned into credit. */
        Optional<LocalDate> setFree(DocumentRef source);

        /** Credit notes on a return's line, from the same invoice line, so far. */
        Quantity credited(LineRef returnLine, LineRef invoiceLine);

        /** A return as it stands. */
        Optional<Return> goods(String number);
    }

    /**
     * Why effects can't be dated as they would be.
     *
     * @param on the date of the command; effects with a date of their own go by that
     */
    public static List<Refusal> refusals(Collection<? extends Effect> effects, LocalDate on, Origins origins) {
        var found = new Origin(on, origins);
        effects.forEach(effect -> ORIGINS.of(found, effect));
        return found.refusals.stream().distinct().toList();
    }

    private static final class Origin {

        private final LocalDate on;
        private final Origins origins;
        private final List<Refusal> refusals = new ArrayList<>();

        private Origin(LocalDate on, Origins origins) {
            this.on = on;
            this.origins = origins;
        }

        private void notBefore(LocalDate date, String origin, Optional<LocalDate> originOn) {
            originOn.flatMap(day -> Dating.before(date, origin, day)).ifPresent(refusals::add);
        }

        private void notBefore(LocalDate date, DocumentRef document) {
            notBefore(date, document.toString(), origins.dateOf(document));
        }

        private void order(LocalDate date, String number) {
            notBefore(date, DocumentRef.order(number));
        }

        private void dispatch(LocalDate date, String number) {
            notBefore(date, new DocumentRef(DocumentKind.DISPATCH, number));
        }

        private void invoice(LocalDate date, String number) {
            notBefore(date, new DocumentRef(DocumentKind.INVOICE, number));
        }

        private static DocumentRef deposit(String number) {
            return new DocumentRef(DocumentKind.DEPOSIT, number);
        }

        /** The source of customer credit, and what was set free of it since. */
        private void money(DocumentRef source) {
            notBefore(on, source);
            notBefore(on, "money set free again of " + source, origins.setFree(source));
        }

        private void settles(List<Settlement> settlements) {
            settlements.forEach(settlement -> invoice(on, settlement.invoice()));
        }

        private void takesOff(DocumentRef source, List<Settlement> settlements) {
            settlements.forEach(settlement -> notBefore(
                    on,
                    "the allocation of %s to invoice %s".formatted(source, settlement.invoice()),
                    origins.settled(source, settlement.invoice())));
        }

        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            order(effect.dispatch().date(), effect.dispatch().order());
            effect.deliveries()
                    .forEach(one ->
                            invoice(effect.dispatch().date(), one.invoiceLine().number()));
        }

        private void dispatchReversed(Effect.DispatchReversed effect) {
            dispatch(on, effect.dispatch().number());
        }

        private void revenueDeferredAgain(Effect.RevenueDeferredAgain effect) {
            dispatch(on, effect.dispatch());
        }

        private void invoicePosted(Effect.InvoicePosted effect) {
            var invoice = effect.invoice();
            for (var line : invoice.lines()) {
                order(invoice.on(), line.orderLine().number());
                line.sources()
                        .forEach(source ->
                                dispatch(invoice.on(), source.dispatchLine().number()));
            }
        }

        private void invoiceReversed(Effect.InvoiceReversed effect) {
            invoice(on, effect.invoice().number());
        }

        private void paymentReceived(Effect.PaymentReceived effect) {
            settles(effect.settlements());
        }

        private void creditAllocated(Effect.CreditAllocated effect) {
            money(effect.source());
            settles(effect.settlements());
        }

        private void allocationTakenOff(Effect.AllocationTakenOff effect) {
            takesOff(effect.source(), effect.settlements());
        }

        private void paymentReversed(Effect.PaymentReversed effect) {
            var payment = new DocumentRef(DocumentKind.PAYMENT, effect.payment());
            money(payment);
            takesOff(payment, effect.settlements());
        }

        private void depositReceived(Effect.DepositReceived effect) {
            order(effect.on(), effect.order());
        }

        private void depositApplied(Effect.DepositApplied effect) {
            money(deposit(effect.deposit()));
            settles(effect.settlements());
        }

        private void depositTakenOff(Effect.DepositTakenOff effect) {
            takesOff(deposit(effect.deposit()), effect.settlements());
        }

        private void depositMoved(Effect.DepositMoved effect) {
            money(deposit(effect.deposit()));
            order(effect.on(), effect.toOrder());
        }

        private void depositCredited(Effect.DepositCredited effect) {
            money(deposit(effect.deposit()));
        }

        private void depositReversed(Effect.DepositReversed effect) {
            money(deposit(effect.deposit()));
        }

        private void creditNoteReversed(Effect.CreditNoteReversed effect) {
            var credit =
                    new DocumentRef(DocumentKind.CREDIT_NOTE, effect.credit().number());
            money(credit);
            takesOff(credit, effect.settlements());
        }

        private void invoiceReduced(Effect.InvoiceReduced effect) {
            invoice(on, effect.reduction().invoice());
        }

        private void reductionReversed(Effect.ReductionReversed effect) {
            var reduction = effect.reduction();
            notBefore(
                    on,
                    reduction.isDiscount()
                            ? "the discount on invoice " + reduction.invoice()
                            : reduction.document().toString(),
                    Optional.of(reduction.on()));
        }

        private void refundGiven(Effect.RefundGiven effect) {
            money(effect.source());
        }

        private void refundReversed(Effect.RefundReversed effect) {
            notBefore(on, new DocumentRef(DocumentKind.REFUND, effect.refund()));
        }

        private void quantityCancelled(Effect.QuantityCancelled effect) {
            order(effect.cancellation().on(), effect.cancellation().order());
        }

        private void returnReceived(Effect.ReturnReceived effect) {
            for (var arrival : effect.arrivals()) {
                dispatch(
                        arrival.part().on(),
                        effect.before().line(arrival.line()).dispatchLine().number());
            }
        }

        private void returnInspected(Effect.ReturnInspected effect) {
            for (var result : effect.results()) {
                notBefore(
                        result.outcome().on(),
                        "the receipt of return " + effect.before().number(),
                        Optional.of(effect.before()
                                .line(result.line())
                                .part(result.part())
                                .on()));
            }
        }

        private void inspectionReversed(Effect.InspectionReversed effect) {
            for (var result : effect.results()) {
                effect.before().line(result.line()).part(result.part()).decided().stream()
                        .map(Return.Outcome::on)
                        .max(Comparator.naturalOrder())
                        .ifPresent(day -> notBefore(
                                on,
                                "the inspection of return " + effect.before().number(),
                                Optional.of(day)));
            }
        }

        private void receiptReversed(Effect.ReceiptReversed effect) {
            effect.before().lines().stream()
                    .flatMap(line -> line.parts().stream())
                    .map(Return.Part::on)
                    .max(Comparator.naturalOrder())
                    .ifPresent(day -> notBefore(
                            on, "the receipt of return " + effect.before().number(), Optional.of(day)));
        }

        private void creditNotePosted(Effect.CreditNotePosted effect) {
            var credit = effect.credit();
            invoice(credit.on(), credit.invoice());
            for (var line : credit.lines()) {
                line.returnLine().ifPresent(ref -> goods(credit, line, ref));
            }
        }

        /** Of goods that are here, so much must have come by the credit's day; the rest is credited ahead of them. */
        private void goods(CreditNote credit, CreditNote.Line line, LineRef returnLine) {
            var invoiceLine = new LineRef(credit.invoice(), line.invoiceLine());
            var covered = origins.credited(returnLine, invoiceLine).plus(line.quantity());
            var parts = origins.goods(returnLine.number()).stream()
                    .flatMap(goods -> goods.line(returnLine.line()).parts().stream())
                    .filter(part ->
                            part.invoiceLine().filter(invoiceLine::equals).isPresent())
                    .sorted(Comparator.comparing(Return.Part::on))
                    .toList();
            for (var part : parts) {
                if (!covered.isPositive()) {
                    return;
                }
                notBefore(credit.on(), "the receipt of return " + returnLine.number(), Optional.of(part.on()));
                covered = covered.minus(part.kept());
            }
        }
    }
}
