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
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Keeps the table of live orders, from which lists and exposure are read. */
@Component
@Order(60)
public class OpenOrderSink implements EffectSink {

    private final ChainReader chains;
    private final JdbcClient jdbc;
    private final Ids ids;

    OpenOrderSink(ChainReader chains, JdbcClient jdbc, Ids ids) {
        this.chains = chains;
        this.jdbc = jdbc;
        this.ids = ids;
    }

    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        refresh(batch.stream().flatMap(effect -> effect.orders().stream()).collect(Collectors.toCollection(TreeSet::new)));
    }

    /** Writes the rows of orders anew; an order that has ended leaves the table. */
    public void refresh(TreeSet<String> orders) {
        chains.chains(orders).values().forEach(this::write);
    }

    private void write(Chain chain) {
        var order = chain.order();
        var id = ids.order(order.number());
        jdbc.sql("delete from open_order where order_id = ?").param(id).update();
        if (order.state().isEnded() || order.state() == OrderState.DRAFT) {
            return;
        }
        var cleared = order.state().isCleared();
        var flows = chain.flows();
        var billable = cleared && flows.stream().anyMatch(flow -> flow.toBill().isPositive());
        var billableNet = flows.stream().map(flow -> flow.line().net(flow.toBill().max(Quantity.ZERO), order.currency()))
                .reduce(Money.zero(order.currency()), Money::plus);
        var since = chain.unbilled().stream().filter(u -> u.quantity().isPositive()).findFirst()
                .flatMap(u -> chain.dispatches().stream().filter(d -> d.number().equals(u.ref().number())).findFirst())
                .map(d -> d.date()).orElse(order.orderedOn());
        jdbc.sql("""
                insert into open_order (order_id, customer_id, cleared, reviewable, stageable, staged, billable, requested_on, open_gross,
                                        unbilled_gross, billable_net, billable_since)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)""")
                .params(id, ids.customer(order.customer()), cleared, hasOpenFindings(id),
                        cleared && flows.stream().map(LineFlow::reserved).anyMatch(q -> q.isPositive()),
                        !chain.staged().isEmpty(), billable, order.requestedOn(), chain.openGross().amount(),
                        chain.dispatchedNotBilledGross().amount(), billableNet.amount(), since).update();
    }

    private boolean hasOpenFindings(long order) {
        return jdbc.sql("select count(*) from finding where order_id = ? and state = 'OPEN'").param(order).query(Long.class).single() > 0;
    }
}
