package app.euthyna.server.platform;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import java.sql.Timestamp;
import java.time.Clock;
import java.util.Locale;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What happened to every document: when, by whom, why. Rows are only ever added. */
@Component
@Order(20)
public class History implements EffectSink {

    private final JdbcClient jdbc;
    private final Ids ids;
    private final Clock clock;

    History(JdbcClient jdbc, Ids ids, Clock clock) {
        this.jdbc = jdbc;
        this.ids = ids;
        this.clock = clock;
    }

    /** The position that the next line of history will stand behind. */
    public long moment() {
        return jdbc.sql("select coalesce(max(moment), 0) from history").query(Long.class).single();
    }

    /** Adds a line about an order. */
    public void note(CommandContext context, String order, String event, String sentence) {
        add(context, order, DocumentKind.ORDER, order, event, null, sentence);
    }

    private void add(CommandContext context, String order, DocumentKind kind, String number, String event, OrderState to,
            String sentence) {
        jdbc.sql("""
                insert into history (order_id, document_kind, document_number, event, state_to, happened_on, at, by_user, sentence)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?)""")
                .param(order == null ? null : ids.order(order)).param(kind.name()).param(number).param(event)
                .param(to == null ? null : to.name()).param(context.date()).param(Timestamp.from(clock.instant()))
                .param(context.person().username()).param(sentence.length() > 4000 ? sentence.substring(0, 4000) : sentence).update();
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
            add(context, effect.order().number(), DocumentKind.ORDER, effect.order().number(), "handed-in", OrderState.SUBMITTED,
                    "handed in");
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
            var why = context.reason().isBlank() ? "" : ": " + context.reason();
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
        public Void staged(Effect.Staged effect) {
            return dispatch(effect.dispatch().order(), effect.dispatch().number(), "staged");
        }

        @Override
        public Void voided(Effect.Voided effect) {
            return dispatch(effect.dispatch().order(), effect.dispatch().number(), "voided");
        }

        @Override
        public Void departed(Effect.Departed effect) {
            return dispatch(effect.dispatch().order(), effect.dispatch().number(), "departed");
        }

        private Void dispatch(String order, String number, String event) {
            add(context, order, DocumentKind.DISPATCH, number, event, null, event);
            return null;
        }

        @Override
        public Void invoiced(Effect.Invoiced effect) {
            effect.invoice().lines().stream().map(line -> line.orderLine().number()).distinct()
                    .forEach(order -> add(context, order, DocumentKind.INVOICE, effect.invoice().number(), "invoiced", null, "invoiced"));
            return null;
        }

        @Override
        public Void paymentReceived(Effect.PaymentReceived effect) {
            add(context, null, DocumentKind.PAYMENT, effect.payment(), "received", null, "received");
            return null;
        }

        @Override
        public Void creditAllocated(Effect.CreditAllocated effect) {
            add(context, null, DocumentKind.PAYMENT, effect.payment(), "credit-allocated", null, "customer credit allocated");
            return null;
        }

        @Override
        public Void quantityCancelled(Effect.QuantityCancelled effect) {
            add(context, effect.cancellation().order(), DocumentKind.CANCELLATION, effect.cancellation().number(), "cancelled", null,
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
