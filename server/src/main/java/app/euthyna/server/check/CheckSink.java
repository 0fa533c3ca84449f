package app.euthyna.server.check;

import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.flow.Chain;
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
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.BinaryOperator;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Checks orders again when they have changed, at once; the other orders of their customers, and those that are short of
 * an item, when the command is done: see {@link Rechecks}.
 */
@Component
@Order(70)
class CheckSink implements EffectSink {

    private static final EffectHandlers<Around, Boolean> AROUND = EffectHandlers.<Around>deeds()
            .on(Effect.CustomerChanged.class, (around, effect) -> around.changed.add(effect.customer()))
            // what is lent to the customer grows again, and an invoice may be overdue
            .on(Effect.PaymentReversed.class, (around, effect) -> around.changed.add(effect.customer()))
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
                    Effect.ReturnInspected.class,
                    (around, effect) -> effect.before().lines().forEach(line -> around.items.add(line.item())))
            .othersDoNotConcernIt();

    private static final EffectHandlers<Answer, Boolean> ANSWERS = EffectHandlers.<Answer>deeds()
            .on(Effect.OrderSubmitted.class, Answer::orderSubmitted)
            .on(Effect.OrderChanged.class, Answer::orderChanged)
            .on(Effect.StateChanged.class, Answer::stateChanged)
            .on(Effect.StockReserved.class, Answer::stockReserved)
            .on(Effect.DispatchDeparted.class, Answer::dispatchDeparted)
            .on(Effect.InvoicePosted.class, Answer::invoicePosted)
            .on(Effect.InvoiceReversed.class, Answer::invoiceReversed)
            .on(Effect.DispatchReversed.class, Answer::dispatchReversed)
            .on(Effect.ReturnReceived.class, Answer::returnReceived)
            .on(Effect.ReturnInspected.class, Answer::returnInspected)
            .on(Effect.CreditNotePosted.class, Answer::creditNotePosted)
            .on(Effect.ReservationTransferred.class, Answer::reservationTransferred)
            .on(Effect.QuantityCancelled.class, Answer::quantityCancelled)
            .othersDoNotConcernIt();

    private static final BinaryOperator<Reach> MORE = BinaryOperator.maxBy(Comparator.naturalOrder());

    private final ChainReader chains;
    private final Checking checking;
    private final Rechecks rechecks;
    private final QuotaStore quotas;
    private final RecheckQueries queries;
    private final Locks locks;
    private final Ids ids;

    CheckSink(
            ChainReader chains,
            Checking checking,
            Rechecks rechecks,
            QuotaStore quotas,
            RecheckQueries queries,
            Locks locks,
            Ids ids) {
        this.quotas = quotas;
        this.chains = chains;
        this.checking = checking;
        this.rechecks = rechecks;
        this.queries = queries;
        this.locks = locks;
        this.ids = ids;
    }

    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        batch.forEach(effect -> ANSWERS.of(new Answer(context, further), effect));
    }

    /** The order itself, at once: it is the command's own, and its customer is locked. */
    private final class Answer {

        private final CommandContext context;
        private final Further further;

        private Answer(CommandContext context, Further further) {
            this.context = context;
            this.further = further;
        }

        private void orderSubmitted(Effect.OrderSubmitted effect) {
            check(effect.order().number(), Occasion.SUBMITTED, Optional.empty());
        }

        private void orderChanged(Effect.OrderChanged effect) {
            var now = chains.chain(effect.after().number());
            check(effect.after().number(), Occasion.CHANGED, Optional.of(now.after(reverse(effect))));
        }

        private void stateChanged(Effect.StateChanged effect) {
            if (effect.to().isEnded()) {
                check(effect.order(), Occasion.WORLD_CHANGED, Optional.empty());
            }
        }

        /** Stock may be handed to an order of a customer that nobody has locked: that one is looked at afterwards. */
        private void stockReserved(Effect.StockReserved effect) {
            var order = effect.orderLine().number();
            if (wasShort(order)
                    && locks.holdsCustomer(
                            ids.customer(chains.chain(order).order().customer()))) {
                check(order, Occasion.WORLD_CHANGED, Optional.empty());
            }
        }

        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            settle(Set.of(effect.dispatch().order()));
        }

        private void invoicePosted(Effect.InvoicePosted effect) {
            settle(effect.orders());
        }

        private void invoiceReversed(Effect.InvoiceReversed effect) {
            settle(effect.orders());
        }

        private void dispatchReversed(Effect.DispatchReversed effect) {
            settle(Set.of(effect.dispatch().order()));
        }

        private void returnReceived(Effect.ReturnReceived effect) {
            settle(effect.orders());
        }

        private void returnInspected(Effect.ReturnInspected effect) {
            settle(effect.orders());
        }

        private void creditNotePosted(Effect.CreditNotePosted effect) {
            settle(effect.orders());
        }

        private void reservationTransferred(Effect.ReservationTransferred effect) {
            check(effect.from().number(), Occasion.WORLD_CHANGED, Optional.empty());
            check(effect.to().number(), Occasion.WORLD_CHANGED, Optional.empty());
        }

        private void quantityCancelled(Effect.QuantityCancelled effect) {
            check(effect.cancellation().order(), Occasion.WORLD_CHANGED, Optional.empty());
        }

        /** The documents may have brought the orders to their end. */
        private void settle(Set<String> orders) {
            orders.stream().sorted().forEach(order -> write(checking.settle(context, order)));
        }

        private void check(String order, Occasion occasion, Optional<Chain> was) {
            write(checking.check(context, order, occasion, was).change());
        }

        private void write(Optional<Effect> change) {
            change.ifPresent(one -> further.write(context, List.of(one)));
        }
    }

    private boolean wasShort(String order) {
        return queries.shortFindings(order) > 0;
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
            if (!locks.holdsCustomer(customer) && wasShort(one.orderLine().number())) {
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

    /** The change that takes a change back. */
    private static Effect.OrderChanged reverse(Effect.OrderChanged change) {
        var changed = change.after();
        var unchanged = change.before();
        return new Effect.OrderChanged(changed, unchanged, List.of());
    }
}
