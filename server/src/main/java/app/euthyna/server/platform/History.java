package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** What happened to every document: when, by whom, why. Rows are only ever added. */
@Component
@Order(20)
public class History implements EffectSink {

    /** What somebody decided, as it is written; a decline is told by the state that it led to. */
    private static final Set<String> DECISIONS = Set.of("waived", "approved", "sent-back", "recalled", "cancelled");

    private static final EffectHandlers<Lines, Boolean> LINES = EffectHandlers.<Lines>deeds()
            .on(Effect.OrderSubmitted.class, Lines::orderSubmitted)
            .on(Effect.OrderChanged.class, Lines::orderChanged)
            .on(Effect.StateChanged.class, Lines::stateChanged)
            .on(Effect.DispatchStaged.class, Lines::dispatchStaged)
            .on(Effect.DispatchVoided.class, Lines::dispatchVoided)
            .on(Effect.DispatchDeparted.class, Lines::dispatchDeparted)
            .on(Effect.InvoicePosted.class, Lines::invoicePosted)
            .on(Effect.PaymentReceived.class, Lines::paymentReceived)
            .on(Effect.CreditAllocated.class, Lines::creditAllocated)
            .on(Effect.AllocationTakenOff.class, Lines::allocationTakenOff)
            .on(Effect.PaymentReversed.class, Lines::paymentReversed)
            .on(Effect.DepositReceived.class, Lines::depositReceived)
            .on(Effect.DepositApplied.class, Lines::depositApplied)
            .on(Effect.DepositTakenOff.class, Lines::depositTakenOff)
            .on(Effect.DepositMoved.class, Lines::depositMoved)
            .on(Effect.DepositCredited.class, Lines::depositCredited)
            .on(Effect.DepositReversed.class, Lines::depositReversed)
            .on(Effect.RefundGiven.class, Lines::refundGiven)
            .on(Effect.RefundReversed.class, Lines::refundReversed)
            .on(Effect.InvoiceReversed.class, Lines::invoiceReversed)
            .on(Effect.DispatchReversed.class, Lines::dispatchReversed)
            .on(Effect.ReturnAuthorised.class, Lines::returnAuthorised)
            .on(Effect.ReturnWithdrawn.class, Lines::returnWithdrawn)
            .on(Effect.ReturnReceived.class, Lines::returnReceived)
            .on(Effect.ReturnInspected.class, Lines::returnInspected)
            .on(Effect.InspectionReversed.class, Lines::inspectionReversed)
            .on(Effect.ReceiptReversed.class, Lines::receiptReversed)
            .on(Effect.CreditNotePosted.class, Lines::creditNotePosted)
            .on(Effect.CreditNoteReversed.class, Lines::creditNoteReversed)
            .on(Effect.InvoiceReduced.class, Lines::invoiceReduced)
            .on(Effect.ReductionReversed.class, Lines::reductionReversed)
            .on(Effect.ReservationTransferred.class, Lines::reservationTransferred)
            .on(Effect.StockCounted.class, Lines::stockCounted)
            .on(Effect.ManualEntryPosted.class, Lines::manualEntryPosted)
            .on(Effect.QuantityCancelled.class, Lines::quantityCancelled)
            .on(Effect.StockReceived.class, Lines::stockReceived)
            // told with what brought them about
            .nothing(
                    Effect.StockReserved.class,
                    Effect.ReservationReleased.class,
                    Effect.CustomerChanged.class,
                    Effect.RevenueDeferredAgain.class)
            .complete();

    private static final String LAST = "";

    private final StatelessSession session;
    private final Ids ids;
    private final TransactionCache<String, Long> written = TransactionCache.toTheEnd();
    private final Clock clock;

    History(StatelessSession session, Ids ids, Clock clock) {
        this.session = session;
        this.ids = ids;
        this.clock = clock;
    }

    /**
     * The position of the line that this transaction wrote last: that of the effect that is being stored. What others
     * write meanwhile has no part in it.
     */
    public long moment() {
        return written.known(LAST)
                .orElseThrow(() -> new IllegalStateException("nothing was written to the history by this command"));
    }

    /** Adds a line about an order. */
    public void note(CommandContext context, String order, String event, String sentence) {
        add(context, order, DocumentKind.ORDER, order, event, null, sentence);
    }

    /** Adds a line about another document to each of the orders that it belongs to. */
    public void note(
            CommandContext context,
            Collection<String> orders,
            DocumentKind kind,
            String number,
            String event,
            String sentence) {
        orders.stream().sorted().forEach(order -> add(context, order, kind, number, event, null, sentence));
    }

    private void add(
            CommandContext context,
            String order,
            DocumentKind kind,
            String number,
            String event,
            OrderState to,
            String sentence) {
        var row = new HistoryEntity();
        row.orderId = order == null ? null : ids.order(order);
        row.documentKind = kind.name();
        row.documentNumber = number;
        row.event = event;
        row.stateTo = to == null ? null : to.name();
        row.happenedOn = context.date();
        row.decidedOn = DECISIONS.contains(event) || to == OrderState.DECLINED ? row.happenedOn : null;
        row.writtenOn = context.today();
        row.at = clock.instant();
        row.byUser = context.person().username();
        row.sentence = Texts.cut(sentence, 4000);
        session.insert(row);
        written.put(LAST, row.moment);
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        LINES.of(new Lines(context), effect);
    }

    private final class Lines {

        private final CommandContext context;

        private Lines(CommandContext context) {
            this.context = context;
        }

        private void orderSubmitted(Effect.OrderSubmitted effect) {
            add(
                    context,
                    effect.order().number(),
                    DocumentKind.ORDER,
                    effect.order().number(),
                    "handed-in",
                    OrderState.SUBMITTED,
                    "submitted");
        }

        private void orderChanged(Effect.OrderChanged effect) {
            note(context, effect.after().number(), "changed", String.join("; ", effect.differences()));
        }

        private void stateChanged(Effect.StateChanged effect) {
            add(context, effect.order(), DocumentKind.ORDER, effect.order(), "state", effect.to(), sentence(effect));
        }

        private String sentence(Effect.StateChanged effect) {
            var why = why();
            return switch (effect.to()) {
                case HELD -> "held";
                case CLEARED -> effect.from() == OrderState.HELD ? "cleared" + why : "cleared";
                case DECLINED -> "declined" + why;
                case DRAFT -> "a draft again" + why;
                case AWAITING_APPROVAL -> "waits for approval";
                default -> effect.to().words().toLowerCase(Locale.ROOT);
            };
        }

        private void dispatchStaged(Effect.DispatchStaged effect) {
            dispatch(effect.dispatch().order(), effect.dispatch().number(), "staged");
        }

        private void dispatchVoided(Effect.DispatchVoided effect) {
            dispatch(effect.dispatch().order(), effect.dispatch().number(), "voided");
        }

        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            dispatch(effect.dispatch().order(), effect.dispatch().number(), "departed");
        }

        private void dispatch(String order, String number, String event) {
            add(context, order, DocumentKind.DISPATCH, number, event, null, event);
        }

        private void invoicePosted(Effect.InvoicePosted effect) {
            effect.invoice().lines().stream()
                    .map(line -> line.orderLine().number())
                    .distinct()
                    .forEach(order -> add(
                            context,
                            order,
                            DocumentKind.INVOICE,
                            effect.invoice().number(),
                            "invoiced",
                            null,
                            "invoiced"));
        }

        private void paymentReceived(Effect.PaymentReceived effect) {
            add(context, null, DocumentKind.PAYMENT, effect.payment(), "received", null, "received");
        }

        private void creditAllocated(Effect.CreditAllocated effect) {
            add(
                    context,
                    null,
                    effect.source().kind(),
                    effect.source().number(),
                    "credit-allocated",
                    null,
                    "customer credit allocated");
        }

        private void allocationTakenOff(Effect.AllocationTakenOff effect) {
            add(
                    context,
                    null,
                    effect.source().kind(),
                    effect.source().number(),
                    "taken-off",
                    null,
                    "unallocated from the invoice" + why());
        }

        private void paymentReversed(Effect.PaymentReversed effect) {
            add(context, null, DocumentKind.PAYMENT, effect.payment(), "reversed", null, "reversed" + why());
        }

        private void depositReceived(Effect.DepositReceived effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "received",
                    null,
                    "%s received".formatted(effect.amount()));
        }

        private void depositApplied(Effect.DepositApplied effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "applied",
                    null,
                    "applied to " + invoices(effect.settlements()));
        }

        private void depositTakenOff(Effect.DepositTakenOff effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "taken-off",
                    null,
                    "unapplied from " + invoices(effect.settlements()) + why());
        }

        private void depositMoved(Effect.DepositMoved effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "moved",
                    null,
                    "%s moved to order %s".formatted(effect.amount(), effect.toOrder()) + why());
            add(
                    context,
                    effect.toOrder(),
                    DocumentKind.DEPOSIT,
                    effect.toDeposit(),
                    "received",
                    null,
                    "%s moved from order %s".formatted(effect.amount(), effect.order()));
        }

        private void depositCredited(Effect.DepositCredited effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "credited",
                    null,
                    "%s moved to customer credit".formatted(effect.amount()) + why());
        }

        private void depositReversed(Effect.DepositReversed effect) {
            effect.cameFrom()
                    .ifPresent(origin -> add(
                            context,
                            origin.order(),
                            DocumentKind.DEPOSIT,
                            origin.deposit(),
                            "moved-back",
                            null,
                            "%s unapplied again: deposit %s was taken back"
                                    .formatted(effect.amount(), effect.deposit())));
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "reversed",
                    null,
                    "taken back" + why());
        }

        private void refundGiven(Effect.RefundGiven effect) {
            add(
                    context,
                    effect.order().isEmpty() ? null : effect.order(),
                    DocumentKind.REFUND,
                    effect.refund(),
                    "refunded",
                    null,
                    "%s of %s refunded".formatted(effect.amount(), effect.source()) + why());
        }

        private void refundReversed(Effect.RefundReversed effect) {
            add(
                    context,
                    effect.order().isEmpty() ? null : effect.order(),
                    DocumentKind.REFUND,
                    effect.refund(),
                    "reversed",
                    null,
                    "did not reach the customer" + why());
        }

        private void invoiceReversed(Effect.InvoiceReversed effect) {
            note(
                    context,
                    effect.orders(),
                    DocumentKind.INVOICE,
                    effect.invoice().number(),
                    "reversed",
                    "taken back" + why());
        }

        private void dispatchReversed(Effect.DispatchReversed effect) {
            add(
                    context,
                    effect.dispatch().order(),
                    DocumentKind.DISPATCH,
                    effect.dispatch().number(),
                    "reversed",
                    null,
                    "reversed, never departed" + why());
        }

        private void returnAuthorised(Effect.ReturnAuthorised effect) {
            goods(effect.orders(), effect.authorised().number(), "authorised", "return authorised" + why());
        }

        private void returnWithdrawn(Effect.ReturnWithdrawn effect) {
            goods(effect.orders(), effect.before().number(), "withdrawn", "no more goods are accepted" + why());
        }

        private void returnReceived(Effect.ReturnReceived effect) {
            goods(effect.orders(), effect.before().number(), "received", "goods received into inspection");
        }

        private void returnInspected(Effect.ReturnInspected effect) {
            goods(effect.orders(), effect.before().number(), "inspected", "goods inspected" + why());
        }

        private void inspectionReversed(Effect.InspectionReversed effect) {
            goods(effect.orders(), effect.before().number(), "inspection-reversed", "inspection taken back" + why());
        }

        private void receiptReversed(Effect.ReceiptReversed effect) {
            goods(effect.orders(), effect.before().number(), "receipt-reversed", "receipt taken back" + why());
        }

        private void goods(Set<String> orders, String number, String event, String sentence) {
            note(context, orders, DocumentKind.RETURN, number, event, sentence);
        }

        private void creditNotePosted(Effect.CreditNotePosted effect) {
            note(
                    context,
                    effect.orders(),
                    DocumentKind.CREDIT_NOTE,
                    effect.credit().number(),
                    "credited",
                    "%s of invoice %s credited: %s"
                            .formatted(
                                    effect.credit().totals().gross(),
                                    effect.credit().invoice(),
                                    effect.credit().reason()));
        }

        private void creditNoteReversed(Effect.CreditNoteReversed effect) {
            note(
                    context,
                    effect.orders(),
                    DocumentKind.CREDIT_NOTE,
                    effect.credit().number(),
                    "reversed",
                    "taken back" + why());
        }

        private void invoiceReduced(Effect.InvoiceReduced effect) {
            var reduction = effect.reduction();
            var of = reduction.standsWith();
            note(
                    context,
                    effect.orders(),
                    of.kind(),
                    of.number(),
                    reduction.isDiscount() ? "discounted" : "written-off",
                    reduction.isDiscount()
                            ? "early-payment discount of %s taken with %s"
                                            .formatted(reduction.amount(), reduction.document())
                                    + (reduction.reason().isBlank() ? "" : ": " + reduction.reason())
                            : "%s of invoice %s written off: %s"
                                    .formatted(reduction.amount(), reduction.invoice(), reduction.reason()));
        }

        private void reductionReversed(Effect.ReductionReversed effect) {
            var reduction = effect.reduction();
            var of = reduction.standsWith();
            note(
                    context,
                    effect.orders(),
                    of.kind(),
                    of.number(),
                    reduction.isDiscount() ? "discount-reversed" : "reversed",
                    (reduction.isDiscount()
                                    ? "early-payment discount of %s taken back".formatted(reduction.amount())
                                    : "taken back")
                            + why());
        }

        private void reservationTransferred(Effect.ReservationTransferred effect) {
            note(
                    context,
                    effect.from().number(),
                    "handed-over",
                    "%s of item %s, reserved for line %d, transferred to order %s"
                                    .formatted(
                                            effect.quantity(),
                                            effect.item(),
                                            effect.from().line(),
                                            effect.to().number())
                            + why());
            note(
                    context,
                    effect.to().number(),
                    "handed-over",
                    "%s of item %s transferred to line %d from order %s"
                                    .formatted(
                                            effect.quantity(),
                                            effect.item(),
                                            effect.to().line(),
                                            effect.from().number())
                            + why());
        }

        private void stockCounted(Effect.StockCounted effect) {
            add(
                    context,
                    null,
                    DocumentKind.STOCK_COUNT,
                    effect.correction(),
                    "corrected",
                    null,
                    "stock counted" + why());
        }

        private void manualEntryPosted(Effect.ManualEntryPosted effect) {
            add(context, null, DocumentKind.MANUAL_ENTRY, effect.number(), "posted", null, "posted manually" + why());
        }

        private String why() {
            return context.reason().isBlank() ? "" : ": " + context.reason();
        }

        private String invoices(List<Effect.Settlement> settlements) {
            return "invoice "
                    + settlements.stream().map(Effect.Settlement::invoice).collect(Collectors.joining(", "));
        }

        private void quantityCancelled(Effect.QuantityCancelled effect) {
            add(
                    context,
                    effect.cancellation().order(),
                    DocumentKind.CANCELLATION,
                    effect.cancellation().number(),
                    "cancelled",
                    null,
                    effect.cancellation().reason());
        }

        private void stockReceived(Effect.StockReceived effect) {
            add(context, null, DocumentKind.STOCK_RECEIPT, effect.receipt(), "received", null, "stock in");
        }
    }
}
