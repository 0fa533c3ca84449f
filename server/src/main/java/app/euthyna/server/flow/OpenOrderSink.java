package app.euthyna.server.flow;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.TransactionCache;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Keeps the table of live orders, from which lists and exposure are read. Orders that a command touches are noted, and
 * their rows written once: before someone reads the table, and at the command's end.
 */
@Component
@Order(60)
public class OpenOrderSink implements EffectSink {

    private final ChainReader chains;
    private final OpenOrderQueries queries;
    private final OpenFindings findings;
    private final Locks locks;
    private final Ids ids;
    private final TransactionCache<String, Boolean> touched = TransactionCache.toTheEnd();

    OpenOrderSink(ChainReader chains, OpenOrderQueries queries, OpenFindings findings, Locks locks, Ids ids) {
        this.locks = locks;
        this.chains = chains;
        this.queries = queries;
        this.findings = findings;
        this.ids = ids;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        chains.happened(effect);
        effect.orders().forEach(this::touch);
    }

    @Override
    public void settle(CommandContext context, List<Effect> all) {
        bringUpToDate();
    }

    /** Notes that an order's row is no longer true. */
    public void touch(String order) {
        touched.put(order, true);
    }

    /** Writes the rows of the orders touched so far anew; an order that has ended leaves the table. */
    public void bringUpToDate() {
        new TreeSet<>(touched.takeAll().keySet()).forEach(order -> write(chains.chain(order)));
    }

    /** The same for whoever looks at what is open of all orders but one: the row of one that is new can wait. */
    public void bringUpToDateBut(String order) {
        var canWait = locks.hasMade(order)
                && touched.keys().equals(Set.of(order))
                && chains.chain(order).dispatches().isEmpty();
        if (!canWait) {
            bringUpToDate();
        }
    }

    private void write(Chain chain) {
        var order = chain.order();
        var id = ids.order(order.number());
        if (order.state().isEnded() || (order.state() == OrderState.DRAFT && !chain.anyDeparted())) {
            queries.remove(id);
            return;
        }
        var cleared = order.state().isCleared();
        var flows = chain.flows();
        var billable = cleared && flows.stream().anyMatch(flow -> flow.toBill().isPositive());
        var billableNet = flows.stream()
                .map(flow -> flow.line().net(flow.toBill().max(Quantity.ZERO), order.currency()))
                .reduce(Money.zero(order.currency()), Money::plus);
        var since = chain.unbilled().stream()
                .filter(u -> u.quantity().isPositive())
                .findFirst()
                .flatMap(u -> chain.dispatches().stream()
                        .filter(d -> d.number().equals(u.ref().number()))
                        .findFirst())
                .map(d -> d.date())
                .orElse(order.orderedOn());
        var row = new OpenOrderEntity();
        row.orderId = id;
        row.customerId = ids.customer(order.customer());
        row.cleared = cleared;
        row.reviewable = order.state() == OrderState.AWAITING_APPROVAL
                || (order.state() != OrderState.DRAFT && findings.areOpen(id));
        row.stageable = cleared && flows.stream().map(LineFlow::reserved).anyMatch(q -> q.isPositive());
        row.staged = !chain.staged().isEmpty();
        row.billable = billable;
        row.toShip = chain.stillToLeave();
        row.partShipped = cleared && chain.stillToLeave() && chain.anyDeparted();
        row.requestedOn = order.requestedOn();
        row.openGross = chain.openGross().amount();
        row.unbilledGross = chain.dispatchedNotBilledGross().amount();
        row.billableNet = billableNet.amount();
        row.billableSince = since;
        queries.session().upsert(row);
    }
}
