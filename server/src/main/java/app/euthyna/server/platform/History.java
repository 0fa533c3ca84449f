package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectListener;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import java.sql.Timestamp;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Component;

/** What happened to every document: when, by whom, why. Rows are only ever added. */
@Component
@Order(20)
public class History implements EffectSink {

    private static final String LAST = "";

    private final JdbcClient jdbc;
    private final Ids ids;
    private final TransactionCache<String, Long> written = TransactionCache.toTheEnd();
    private final Clock clock;

    History(JdbcClient jdbc, Ids ids, Clock clock) {
        this.jdbc = jdbc;
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
        var key = new GeneratedKeyHolder();
        jdbc.sql("""
            insert into history (order_id, document_kind, document_number, event, state_to, happened_on, written_on,
                at, by_user, sentence)
            values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
            """)
                .param(order == null ? null : ids.order(order))
                .param(kind.name())
                .param(number)
                .param(event)
                .param(to == null ? null : to.name())
                .param(context.date())
                .param(context.today())
                .param(Timestamp.from(clock.instant()))
                .param(context.person().username())
                .param(Texts.cut(sentence, 4000))
                .update(key, "moment");
        written.put(LAST, Objects.requireNonNull(key.getKey()).longValue());
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        effect.accept(new Lines(context));
    }

    private final class Lines extends EffectListener {

        private final CommandContext context;

        private Lines(CommandContext context) {
            this.context = context;
        }

        @Override
        public Void orderSubmitted(Effect.OrderSubmitted effect) {
            add(
                    context,
                    effect.order().number(),
                    DocumentKind.ORDER,
                    effect.order().number(),
                    "handed-in",
                    OrderState.SUBMITTED,
                    "submitted");
            return null;
        }

        @Override
        public Void orderChanged(Effect.OrderChanged effect) {
            note(context, effect.after().number(), "changed", String.join("; ", effect.differences()));
            return null;
        }

        @Override
        public Void stateChanged(Effect.StateChanged effect) {
            add(context, effect.order(), DocumentKind.ORDER, effect.order(), "state", effect.to(), sentence(effect));
            return null;
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

        @Override
        public Void dispatchStaged(Effect.DispatchStaged effect) {
            return dispatch(effect.dispatch().order(), effect.dispatch().number(), "staged");
        }

        @Override
        public Void dispatchVoided(Effect.DispatchVoided effect) {
            return dispatch(effect.dispatch().order(), effect.dispatch().number(), "voided");
        }

        @Override
        public Void dispatchDeparted(Effect.DispatchDeparted effect) {
            return dispatch(effect.dispatch().order(), effect.dispatch().number(), "departed");
        }

        private Void dispatch(String order, String number, String event) {
            add(context, order, DocumentKind.DISPATCH, number, event, null, event);
            return null;
        }

        @Override
        public Void invoicePosted(Effect.InvoicePosted effect) {
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
            return null;
        }

        @Override
        public Void paymentReceived(Effect.PaymentReceived effect) {
            add(context, null, DocumentKind.PAYMENT, effect.payment(), "received", null, "received");
            return null;
        }

        @Override
        public Void creditAllocated(Effect.CreditAllocated effect) {
            add(
                    context,
                    null,
                    effect.source().kind(),
                    effect.source().number(),
                    "credit-allocated",
                    null,
                    "customer credit allocated");
            return null;
        }

        @Override
        public Void allocationTakenOff(Effect.AllocationTakenOff effect) {
            add(
                    context,
                    null,
                    effect.source().kind(),
                    effect.source().number(),
                    "taken-off",
                    null,
                    "unallocated from the invoice" + why());
            return null;
        }

        @Override
        public Void paymentReversed(Effect.PaymentReversed effect) {
            add(context, null, DocumentKind.PAYMENT, effect.payment(), "reversed", null, "reversed" + why());
            return null;
        }

        @Override
        public Void depositReceived(Effect.DepositReceived effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "received",
                    null,
                    "%s received".formatted(effect.amount()));
            return null;
        }

        @Override
        public Void depositApplied(Effect.DepositApplied effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "applied",
                    null,
                    "applied to " + invoices(effect.settlements()));
            return null;
        }

        @Override
        public Void depositTakenOff(Effect.DepositTakenOff effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "taken-off",
                    null,
                    "unapplied from " + invoices(effect.settlements()) + why());
            return null;
        }

        @Override
        public Void depositMoved(Effect.DepositMoved effect) {
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
            return null;
        }

        @Override
        public Void depositCredited(Effect.DepositCredited effect) {
            add(
                    context,
                    effect.order(),
                    DocumentKind.DEPOSIT,
                    effect.deposit(),
                    "credited",
                    null,
                    "%s moved to customer credit".formatted(effect.amount()) + why());
            return null;
        }

        @Override
        public Void refundGiven(Effect.RefundGiven effect) {
            add(
                    context,
                    effect.order().isEmpty() ? null : effect.order(),
                    DocumentKind.REFUND,
                    effect.refund(),
                    "refunded",
                    null,
                    "%s of %s refunded".formatted(effect.amount(), effect.source()) + why());
            return null;
        }

        @Override
        public Void refundReversed(Effect.RefundReversed effect) {
            add(
                    context,
                    effect.order().isEmpty() ? null : effect.order(),
                    DocumentKind.REFUND,
                    effect.refund(),
                    "reversed",
                    null,
                    "did not reach the customer" + why());
            return null;
        }

        @Override
        public Void invoiceReversed(Effect.InvoiceReversed effect) {
            note(
                    context,
                    effect.orders(),
                    DocumentKind.INVOICE,
                    effect.invoice().number(),
                    "reversed",
                    "taken back" + why());
            return null;
        }

        @Override
        public Void dispatchReversed(Effect.DispatchReversed effect) {
            add(
                    context,
                    effect.dispatch().order(),
                    DocumentKind.DISPATCH,
                    effect.dispatch().number(),
                    "reversed",
                    null,
                    "reversed, never departed" + why());
            return null;
        }

        @Override
        public Void returnAuthorised(Effect.ReturnAuthorised effect) {
            return goods(effect.orders(), effect.authorised().number(), "authorised", "return authorised" + why());
        }

        @Override
        public Void returnWithdrawn(Effect.ReturnWithdrawn effect) {
            return goods(
                    effect.orders(), effect.withdrawn().number(), "withdrawn", "no more goods are accepted" + why());
        }

        @Override
        public Void returnReceived(Effect.ReturnReceived effect) {
            return goods(effect.orders(), effect.before().number(), "received", "goods received into inspection");
        }

        @Override
        public Void returnInspected(Effect.ReturnInspected effect) {
            return goods(effect.orders(), effect.before().number(), "inspected", "goods inspected" + why());
        }

        private Void goods(Set<String> orders, String number, String event, String sentence) {
            note(context, orders, DocumentKind.RETURN, number, event, sentence);
            return null;
        }

        @Override
        public Void creditNotePosted(Effect.CreditNotePosted effect) {
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
            return null;
        }

        @Override
        public Void reservationTransferred(Effect.ReservationTransferred effect) {
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
            return null;
        }

        @Override
        public Void stockCounted(Effect.StockCounted effect) {
            add(
                    context,
                    null,
                    DocumentKind.STOCK_COUNT,
                    effect.correction(),
                    "corrected",
                    null,
                    "stock counted" + why());
            return null;
        }

        @Override
        public Void manualEntryPosted(Effect.ManualEntryPosted effect) {
            add(context, null, DocumentKind.MANUAL_ENTRY, effect.number(), "posted", null, "posted manually" + why());
            return null;
        }

        private String why() {
            return context.reason().isBlank() ? "" : ": " + context.reason();
        }

        private String invoices(List<Effect.Settlement> settlements) {
            return "invoice "
                    + settlements.stream().map(Effect.Settlement::invoice).collect(Collectors.joining(", "));
        }

        @Override
        public Void quantityCancelled(Effect.QuantityCancelled effect) {
            add(
                    context,
                    effect.cancellation().order(),
                    DocumentKind.CANCELLATION,
                    effect.cancellation().number(),
                    "cancelled",
                    null,
                    effect.cancellation().reason());
            return null;
        }

        @Override
        public Void stockReceived(Effect.StockReceived effect) {
            add(context, null, DocumentKind.STOCK_RECEIPT, effect.receipt(), "received", null, "stock in");
            return null;
        }
    }
}
