package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
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
    private final EntityManager entities;
    private final Ids ids;

    OrderSink(EntityManager entities, Ids ids, OrderVersions versions, History history) {
        this.history = history;
        this.versions = versions;
        this.entities = entities;
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
            var order = find(effect.order().number());
            order.poTaken = order.poTaken == null ? moment() : order.poTaken;
        }

        void stateChanged(Effect.StateChanged effect) {
            var order = find(effect.order());
            order.state = effect.to();
            if (effect.to() == OrderState.CLEARED && order.clearing == null) {
                order.clearing = moment();
            }
        }

        void orderChanged(Effect.OrderChanged effect) {
            var order = find(effect.after().number());
            order.write(effect.after());
            if (!effect.before().po().equals(effect.after().po())) {
                order.poTaken = moment();
            }
            versions.keep(context, order.id, effect.differences());
        }

        void quantityCancelled(Effect.QuantityCancelled effect) {
            var stored = new CancellationEntity();
            stored.number = effect.cancellation().number();
            stored.orderId = find(effect.cancellation().order()).id;
            stored.cancelledOn = effect.cancellation().on();
            stored.reason = effect.cancellation().reason();
            effect.cancellation()
                    .lines()
                    .forEach(line -> stored.lines.add(new CancellationEntity.Line(
                            stored.orderId, line.orderLine(), line.quantity().value())));
            entities.persist(stored);
        }
    }

    @Override
    public void settle(CommandContext context, List<Effect> all) {
        all.stream()
                .flatMap(effect -> effect.orders().stream())
                .distinct()
                .sorted()
                .forEach(number -> entities.lock(find(number), LockModeType.OPTIMISTIC_FORCE_INCREMENT));
    }

    /** How far the history has come: what happens later has a higher figure. */
    private long moment() {
        return history.moment();
    }

    private OrderEntity find(String number) {
        return entities.find(OrderEntity.class, ids.order(number));
    }
}
