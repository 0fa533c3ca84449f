package app.euthyna.server.check;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.order.OrderLine;
import app.euthyna.server.check.Rechecks.Reach;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BinaryOperator;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * What follows for others than the orders of a command: whoever may see other figures now, or may go, is put into the
 * queue of {@link Rechecks}.
 */
@Component
@Order(71)
class RecheckSink implements EffectSink {

    private static final EffectHandlers<Around, Boolean> AROUND = EffectHandlers.<Around>deeds()
            .on(Effect.CustomerChanged.class, (around, effect) -> around.changed.add(effect.customer()))
            // what is lent to the customer grows again, and an invoice may be overdue
            .on(Effect.PaymentReversed.class, (around, effect) -> around.changed.add(effect.customer()))
            .on(Effect.DepositReversed.class, (around, effect) -> around.changed.add(effect.customer()))
            .on(
                    Effect.CreditNoteReversed.class,
                    (around, effect) -> around.changed.add(effect.credit().customer()))
            .on(
                    Effect.ReductionReversed.class,
                    (around, effect) -> around.changed.add(effect.reduction().customer()))
            .on(Effect.AllocationTakenOff.class, (around, effect) -> around.touched.add(effect.customer()))
            .on(Effect.PaymentReceived.class, (around, effect) -> around.touched.add(effect.customer()))
            .on(Effect.CreditAllocated.class, (around, effect) -> around.touched.add(effect.customer()))
            .on(Effect.RefundGiven.class, (around, effect) -> around.touched.add(effect.customer()))
            .on(Effect.RefundReversed.class, (around, effect) -> around.touched.add(effect.customer()))
            .on(Effect.StockReceived.class, (around, effect) -> around.items.add(effect.item()))
            .on(Effect.StockCounted.class, (around, effect) -> around.items.add(effect.item()))
            .on(Effect.ReservationReleased.class, (around, effect) -> around.items.add(effect.item()))
            .on(
                    Effect.DispatchReversed.class,
                    (around, effect) -> effect.dispatch().lines().forEach(line -> around.items.add(line.item())))
            .on(
                    Effect.InspectionReversed.class,
                    (around, effect) -> effect.before().lines().forEach(line -> around.items.add(line.item())))
            .on(
                    Effect.ReturnInspected.class,
                    (around, effect) -> effect.before().lines().forEach(line -> around.items.add(line.item())))
            .othersDoNotConcernIt();

    private static final BinaryOperator<Reach> MORE = BinaryOperator.maxBy(Comparator.naturalOrder());

    private final ChainReader chains;
    private final Rechecks rechecks;
    private final QuotaStore quotas;
    private final RecheckQueries queries;
    private final Locks locks;
    private final Ids ids;

    RecheckSink(
            ChainReader chains, Rechecks rechecks, QuotaStore quotas, RecheckQueries queries, Locks locks, Ids ids) {
        this.chains = chains;
        this.rechecks = rechecks;
        this.quotas = quotas;
        this.queries = queries;
        this.locks = locks;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        quotas.forgetUses();
    }

    /** Whoever else may see other figures now, or may go: their customers are put into the queue. */
    @Override
    public void settle(CommandContext context, List<Effect> all) {
        var changed = new TreeSet<String>();
        var touched = new TreeSet<String>();
        var items = new TreeSet<String>();
        var around = new Around(changed, touched, items);
        var own = new TreeSet<String>();
        var submitted = new TreeSet<String>();
        for (var effect : all) {
            own.addAll(effect.orders());
            if (effect instanceof Effect.OrderSubmitted one) {
                submitted.add(one.order().number());
            }
            if (!(effect instanceof Effect.StockReserved
                    || effect instanceof Effect.DispatchStaged
                    || effect instanceof Effect.DispatchVoided)) {
                effect.orders()
                        .forEach(
                                order -> touched.add(chains.chain(order).order().customer()));
            }
            AROUND.of(around, effect);
        }
        var onlyNew = !own.isEmpty() && submitted.containsAll(own);
        var queued = new TreeMap<Long, Reach>();
        changed.forEach(customer -> queued.put(ids.customer(customer), Reach.ALL));
        touched.stream()
                .map(ids::customer)
                .filter(customer -> !queued.containsKey(customer) && othersWait(customer, own))
                .forEach(customer -> queued.put(customer, onlyNew ? Reach.BESIDE_A_NEW_ORDER : Reach.WAITING));
        var reserved = all.stream()
                .filter(Effect.StockReserved.class::isInstance)
                .map(Effect.StockReserved.class::cast)
                .toList();
        for (var one : reserved) {
            var customer =
                    ids.customer(chains.chain(one.orderLine().number()).order().customer());
            if (!locks.holdsCustomer(customer)
                    && queries.wasShort(one.orderLine().number())) {
                queued.merge(customer, Reach.WAITING, MORE);
            }
        }
        wantMoreThanIsLeft(reserved).forEach(one -> queued.merge(one, Reach.WAITING, MORE));
        items.addAll(quotas.shared(own.stream()
                .flatMap(order -> chains.chain(order).order().lines().stream())
                .map(OrderLine::item)
                .collect(Collectors.toSet())));
        items.forEach(item -> rechecks.whoWant(item).forEach(one -> queued.merge(one, Reach.WAITING, MORE)));
        queued.forEach((customer, reach) -> rechecks.queue(context, customer, reach));
    }

    /** Another order than the one that this command was about waits for something. */
    private boolean othersWait(long customer, Set<String> own) {
        var waiting = queries.firstTwoWaiting(customer);
        return own.size() == 1 ? waiting.stream().anyMatch(order -> !own.contains(order)) : !waiting.isEmpty();
    }

    /** The customers of orders that wait for something and want more of an item than was left of it. */
    private Set<Long> wantMoreThanIsLeft(List<Effect.StockReserved> reserved) {
        if (reserved.isEmpty()) {
            return Set.of();
        }
        var items = reserved.stream().map(Effect.StockReserved::item).distinct().toList();
        var left = new HashMap<String, BigDecimal>();
        queries.leftOf(
                        Many.names(items),
                        Many.names(reserved.stream()
                                .map(Effect.StockReserved::site)
                                .distinct()
                                .toList()))
                .forEach(row -> left.put(row.item(), row.onHand()));
        return queries.wanted(Many.names(items)).stream()
                .filter(row -> row.quantity().compareTo(left.getOrDefault(row.itemCode(), BigDecimal.ZERO)) > 0)
                .map(RecheckQueries.WantedRow::customerId)
                .collect(Collectors.toSet());
    }

    /** What effects change around orders that they do not name: customers, and items of the shelves. */
    private record Around(Set<String> changed, Set<String> touched, Set<String> items) {}
}
