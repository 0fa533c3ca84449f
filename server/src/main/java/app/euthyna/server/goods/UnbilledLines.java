package app.euthyna.server.goods;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.LineRef;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Keeps with each line of a dispatch what of it is unbilled, and on which days it was: lists of what had left and was
 * not billed find the lines by it, now and at the end of any day.
 */
@Component
@Order(61)
class UnbilledLines implements EffectSink {

    private final ChainReader chains;
    private final ShelfQueries queries;
    private final Ids ids;

    UnbilledLines(ChainReader chains, ShelfQueries queries, Ids ids) {
        this.chains = chains;
        this.queries = queries;
        this.ids = ids;
    }

    @Override
    public void settle(CommandContext context, List<Effect> all) {
        var left = all.stream()
                .flatMap(effect -> effect.orders().stream())
                .collect(Collectors.toCollection(TreeSet::new))
                .stream()
                .map(chains::chain)
                .filter(UnbilledLines::hasLeft)
                .collect(Collectors.toMap(chain -> chain.order().number(), chain -> chain));
        if (left.isEmpty()) {
            return;
        }
        var orders = Many.ids(left.keySet().stream().map(ids::order).toList());
        queries.dispatched(orders).stream()
                .collect(Collectors.groupingBy(ShelfQueries.DispatchedRow::order))
                .forEach((order, rows) -> keep(left.get(order), rows, context.today()));
    }

    private static boolean hasLeft(Chain chain) {
        return chain.dispatches().stream()
                .map(Dispatch::state)
                .anyMatch(state -> state == Dispatch.State.DEPARTED || state == Dispatch.State.REVERSED);
    }

    private void keep(Chain chain, List<ShelfQueries.DispatchedRow> rows, LocalDate today) {
        var unbilled = chain.unbilled().stream()
                .filter(one -> !chain.order()
                        .isAtNoCharge(chain.flow(one.line().orderLine()).line()))
                .collect(Collectors.toMap(Chain.Unbilled::ref, one -> one));
        var taken = chain.firstTaken();
        for (var row : rows) {
            var ref = new LineRef(row.dispatch().number, row.line().lineNo);
            var one = unbilled.get(ref);
            var quantity = one == null ? BigDecimal.ZERO : one.quantity().value();
            var cost = one == null ? BigDecimal.ZERO : one.cost().amount();
            if (row.line().keep(quantity, cost, taken.get(ref), today)) {
                queries.session().update(row.line());
            }
        }
    }
}
