package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import java.util.List;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Keeps orders, their versions and cancellations; every command that touches an order's chain moves its version. */
@Component
@Order(30)
class OrderSink implements EffectSink {

    private static final EffectHandlers<Store, Boolean> STORES = EffectHandlers.<Store>deeds()
            .on(Effect.OrderSubmitted.class, Store::orderSubmitted)
            .on(Effect.StateChanged.class, Store::stateChanged)
            .on(Effect.OrderChanged.class, Store::orderChanged)
            .on(Effect.QuantityCancelled.class, Store::quantityCancelled)
            .othersDoNotConcernIt();

    private final OrderVersions versions;
    private final History history;
    private final OrderQueries queries;
    private final OrderStore stored;
    private final Ids ids;

    OrderSink(OrderQueries queries, OrderStore stored, Ids ids, OrderVersions versions, History history) {
        this.queries = queries;
        this.history = history;
        this.versions = versions;
        this.stored = stored;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        STORES.of(new Store(context), effect);
    }

    private final class Store {

        private final CommandContext context;

        private Store(CommandContext context) {
            this.context = context;
        }

        void orderSubmitted(Effect.OrderSubmitted effect) {
            queries.takePo(ids.order(effect.order().number()), moment());
        }

        void stateChanged(Effect.StateChanged effect) {
            var order = ids.order(effect.order());
            if (effect.to() == OrderState.CLEARED) {
                queries.setCleared(order, moment());
            } else {
                queries.setState(order, effect.to());
            }
        }

        void orderChanged(Effect.OrderChanged effect) {
            var order = stored.find(effect.after().number());
            order.write(effect.after());
            if (!effect.before().po().equals(effect.after().po())) {
                order.header.poTaken = moment();
            }
            stored.save(order);
            versions.keep(context, order.header.id, effect.differences());
        }

        void quantityCancelled(Effect.QuantityCancelled effect) {
            var cancellation = new CancellationEntity();
            cancellation.number = effect.cancellation().number();
            cancellation.orderId = ids.order(effect.cancellation().order());
            cancellation.cancelledOn = effect.cancellation().on();
            cancellation.reason = effect.cancellation().reason();
            queries.session().insert(cancellation);
            for (var line : effect.cancellation().lines()) {
                var cancelled = new CancellationLineEntity();
                cancelled.cancellationId = cancellation.id;
                cancelled.rootOrderId = cancellation.orderId;
                cancelled.orderLineNo = line.orderLine();
                cancelled.quantity = line.quantity().value();
                queries.session().insert(cancelled);
            }
        }
    }

    @Override
    public void settle(CommandContext context, List<Effect> all) {
        all.stream()
                .flatMap(effect -> effect.orders().stream())
                .distinct()
                .sorted()
                .forEach(stored::moveVersion);
    }

    /** How far the history has come: what happens later has a higher figure. */
    private long moment() {
        return history.moment();
    }
}
