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
import java.util.HashMap;
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
                .toList();
        if (left.isEmpty()) {
            return;
        }
        var unbilled = new HashMap<LineRef, Chain.Unbilled>();
        var taken = new HashMap<LineRef, LocalDate>();
        left.forEach(chain -> {
            chain.unbilled().stream()
                    .filter(one -> !chain.order()
                            .isAtNoCharge(chain.flow(one.line().orderLine()).line()))
                    .forEach(one -> unbilled.put(one.ref(), one));
            taken.putAll(chain.firstTaken());
        });
        var orders =
                left.stream().map(chain -> ids.order(chain.order().number())).toList();
        for (var row : queries.left(Many.ids(orders))) {
            var ref = new LineRef(row.dispatch(), row.line().lineNo);
            var one = unbilled.get(ref);
            var quantity = one == null ? BigDecimal.ZERO : one.quantity().value();
            var cost = one == null ? BigDecimal.ZERO : one.cost().amount();
            if (row.line().keep(quantity, cost, taken.get(ref), context.today())) {
                queries.session().update(row.line());
            }
        }
    }

    private static boolean hasLeft(Chain chain) {
        return chain.dispatches().stream()
                .map(Dispatch::state)
                .anyMatch(state -> state == Dispatch.State.DEPARTED || state == Dispatch.State.REVERSED);
    }
}
