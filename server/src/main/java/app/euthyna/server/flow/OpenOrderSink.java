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
import app.euthyna.server.platform.TransactionCache;
import java.util.List;
import java.util.TreeSet;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Keeps the table of live orders, from which lists and exposure are read. Orders that a command touches are noted, and
 * their rows written once: before someone reads the table, and at the command's end.
 */
@Component
@Order(60)
public class OpenOrderSink implements EffectSink {

    private final ChainReader chains;
    private final JdbcClient jdbc;
    private final Ids ids;
    private final TransactionCache<String, Boolean> touched = TransactionCache.toTheEnd();

    OpenOrderSink(ChainReader chains, JdbcClient jdbc, Ids ids) {
        this.chains = chains;
        this.jdbc = jdbc;
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

    private void write(Chain chain) {
        var order = chain.order();
        var id = ids.order(order.number());
        jdbc.sql("delete from open_order where order_id = ?").param(id).update();
        if (order.state().isEnded() || (order.state() == OrderState.DRAFT && !chain.anyDeparted())) {
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
        jdbc.sql("""
            insert into open_order (order_id, customer_id, cleared, reviewable, stageable, staged, billable, to_ship,
                part_shipped, requested_on, open_gross,
                                    unbilled_gross, billable_net, billable_since)
            values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
            """)
                .params(
                        id,
                        ids.customer(order.customer()),
                        cleared,
                        order.state() == OrderState.AWAITING_APPROVAL
                                || (order.state() != OrderState.DRAFT && hasOpenFindings(id)),
                        cleared && flows.stream().map(LineFlow::reserved).anyMatch(q -> q.isPositive()),
                        !chain.staged().isEmpty(),
                        billable,
                        chain.stillToLeave(),
                        cleared && chain.stillToLeave() && chain.anyDeparted(),
                        order.requestedOn(),
                        chain.openGross().amount(),
                        chain.dispatchedNotBilledGross().amount(),
                        billableNet.amount(),
                        since)
                .update();
    }

    private boolean hasOpenFindings(long order) {
        return jdbc.sql("select count(*) from finding where order_id = ? and state = 'OPEN'")
                        .param(order)
                        .query(Long.class)
                        .single()
                > 0;
    }
}
