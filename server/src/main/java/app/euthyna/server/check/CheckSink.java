package app.euthyna.server.check;

import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.check.DuplicatePo;
import app.euthyna.core.check.Finding;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectListener;
import app.euthyna.core.flow.Return;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.flow.OpenOrderSink;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Optional;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Checks orders again when they, or something the checks look at, have changed, and sets the state that follows: the
 * one place where an order is held, cleared or comes to its end.
 */
@Component
@Order(70)
class CheckSink implements EffectSink {

    private final ChainReader chains;
    private final FindingStore findings;
    private final CheckContextReader checkContexts;
    private final OpenOrderSink openOrders;
    private final JdbcClient jdbc;
    private final Clearance clearance;

    CheckSink(
            ChainReader chains,
            FindingStore findings,
            CheckContextReader checkContexts,
            OpenOrderSink openOrders,
            JdbcClient jdbc,
            Clearance clearance) {
        this.clearance = clearance;
        this.chains = chains;
        this.findings = findings;
        this.checkContexts = checkContexts;
        this.openOrders = openOrders;
        this.jdbc = jdbc;
    }

    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        batch.forEach(effect -> effect.accept(new Answer(context, further)));
    }

    private final class Answer extends EffectListener {

        private final CommandContext context;
        private final Further further;

        private Answer(CommandContext context, Further further) {
            this.context = context;
            this.further = further;
        }

        @Override
        public Void orderSubmitted(Effect.OrderSubmitted effect) {
            return check(effect.order().number(), Occasion.SUBMITTED, Optional.empty());
        }

        @Override
        public Void orderChanged(Effect.OrderChanged effect) {
            var now = chains.chain(effect.after().number());
            check(effect.after().number(), Occasion.CHANGED, Optional.of(now.after(reverse(effect))));
            return heldOf(effect.after().customer());
        }

        @Override
        public Void stateChanged(Effect.StateChanged effect) {
            if (effect.to().isEnded()) {
                check(effect.order(), Occasion.WORLD_CHANGED, Optional.empty());
                heldOf(chains.chain(effect.order()).order().customer());
            }
            return null;
        }

        @Override
        public Void stockReserved(Effect.StockReserved effect) {
            var order = effect.orderLine().number();
            return wasShort(order) ? check(order, Occasion.WORLD_CHANGED, Optional.empty()) : null;
        }

        @Override
        public Void reservationReleased(Effect.ReservationReleased effect) {
            return shortOf(effect.item());
        }

        @Override
        public Void stockReceived(Effect.StockReceived effect) {
            return shortOf(effect.item());
        }

        @Override
        public Void dispatchDeparted(Effect.DispatchDeparted effect) {
            return settle(effect.dispatch().order());
        }

        @Override
        public Void invoicePosted(Effect.InvoicePosted effect) {
            effect.orders().stream().sorted().forEach(this::settle);
            return null;
        }

        @Override
        public Void invoiceReversed(Effect.InvoiceReversed effect) {
            effect.orders().stream().sorted().forEach(this::settle);
            return heldOf(effect.invoice().customer());
        }

        @Override
        public Void dispatchReversed(Effect.DispatchReversed effect) {
            settle(effect.dispatch().order());
            effect.dispatch().lines().stream()
                    .map(Dispatch.Line::item)
                    .distinct()
                    .sorted()
                    .forEach(this::shortOf);
            return null;
        }

        @Override
        public Void returnReceived(Effect.ReturnReceived effect) {
            effect.orders().stream().sorted().forEach(this::settle);
            return heldOf(effect.before().customer());
        }

        @Override
        public Void returnInspected(Effect.ReturnInspected effect) {
            effect.orders().stream().sorted().forEach(this::settle);
            effect.before().lines().stream()
                    .map(Return.Line::item)
                    .distinct()
                    .sorted()
                    .forEach(this::shortOf);
            return null;
        }

        /** What a credit leaves open is less: what waits for the money may go. */
        @Override
        public Void creditNotePosted(Effect.CreditNotePosted effect) {
            return heldOf(effect.credit().customer());
        }

        /**
         * What may go now goes first; then what was cleared is looked at, the newest first, since it was the last to be
         * lent to.
         */
        @Override
        public Void customerChanged(Effect.CustomerChanged effect) {
            heldOf(effect.customer());
            jdbc.sql("""
                select o.number from open_order x join sales_order o on o.id = x.order_id
                join customer c on c.id = x.customer_id
                where c.code = ? and x.cleared = true order by x.order_id desc\
                """)
                    .param(effect.customer())
                    .query(String.class)
                    .list()
                    .forEach(order -> check(order, Occasion.CUSTOMER_CHANGED, Optional.empty()));
            return null;
        }

        @Override
        public Void paymentReceived(Effect.PaymentReceived effect) {
            return heldOf(effect.customer());
        }

        @Override
        public Void refundReversed(Effect.RefundReversed effect) {
            return heldOf(effect.customer());
        }

        @Override
        public Void depositReceived(Effect.DepositReceived effect) {
            return heldOf(effect.customer());
        }

        /** What is lent to the customer grows again, and an invoice may be overdue. */
        @Override
        public Void paymentReversed(Effect.PaymentReversed effect) {
            return customerChanged(new Effect.CustomerChanged(effect.customer()));
        }

        @Override
        public Void stockCounted(Effect.StockCounted effect) {
            return shortOf(effect.item());
        }

        @Override
        public Void reservationTransferred(Effect.ReservationTransferred effect) {
            check(effect.from().number(), Occasion.WORLD_CHANGED, Optional.empty());
            return check(effect.to().number(), Occasion.WORLD_CHANGED, Optional.empty());
        }

        @Override
        public Void quantityCancelled(Effect.QuantityCancelled effect) {
            var order = effect.cancellation().order();
            check(order, Occasion.WORLD_CHANGED, Optional.empty());
            return heldOf(chains.chain(order).order().customer());
        }

        /** The documents may have brought the order to its end. */
        private Void settle(String order) {
            var chain = chains.chain(order);
            setState(chain, findings.of(order), Occasion.WORLD_CHANGED);
            return null;
        }

        private Void check(String order, Occasion occasion, Optional<Chain> was) {
            var chain = chains.chain(order);
            var checkContext = checkContexts.of(chain.order(), context.today());
            var after = Checks.run(chain, checkContext, findings.of(order), occasion, was);
            if (occasion == Occasion.SUBMITTED || occasion == Occasion.CHANGED) {
                RefusedException.where(
                        DuplicatePo.refusal(after, checkContext.customer().po(), context.person()));
            }
            findings.save(order, after);
            openOrders.touch(order);
            setState(chain, after, occasion);
            return null;
        }

        private void setState(Chain chain, List<Finding> found, Occasion occasion) {
            var from = chain.order().state();
            var to = Checks.stateOf(chain, found);
            if (to == OrderState.CLEARED) {
                to = clearance.decide(context, chain, found, occasion);
            }
            if (from != to) {
                further.write(
                        context, List.of(new Effect.StateChanged(chain.order().number(), from, to)));
            }
        }

        /** Held orders of a customer, oldest first, each counting those let go before it. */
        private Void heldOf(String customer) {
            jdbc.sql("""
                select o.number from sales_order o join customer c on c.id = o.customer_id
                where c.code = ? and o.state = 'HELD' order by o.id\
                """)
                    .param(customer)
                    .query(String.class)
                    .list()
                    .forEach(order -> check(order, Occasion.WORLD_CHANGED, Optional.empty()));
            return null;
        }

        private boolean wasShort(String order) {
            return jdbc.sql("""
                select count(*) from finding f join sales_order o on o.id = f.order_id
                where o.number = ? and f.check_code = 'unreserved' and f.state in ('OPEN', 'WAIVED')\
                """).param(order).query(Long.class).single() > 0;
        }

        /**
         * Held orders that are short of an item. Cleared ones stand in the queue and are looked at when they are
         * served.
         */
        private Void shortOf(String item) {
            jdbc.sql("""
                select distinct o.id, o.number from finding f join sales_order o on o.id = f.order_id
                join sales_order_line l on l.order_id = o.id and l.item_code = ? and l.removed = false
                where f.check_code = 'unreserved' and f.state in ('OPEN', 'WAIVED') and o.state = 'HELD'
                order by o.id\
                """)
                    .param(item)
                    .query((r, n) -> r.getString(2))
                    .list()
                    .forEach(order -> check(order, Occasion.WORLD_CHANGED, Optional.empty()));
            return null;
        }
    }

    /** The change that takes a change back. */
    private static Effect.OrderChanged reverse(Effect.OrderChanged change) {
        var changed = change.after();
        var unchanged = change.before();
        return new Effect.OrderChanged(changed, unchanged, List.of());
    }
}
