package app.euthyna.server.goods;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.goods.ShelfQueries.ClaimRow;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import org.springframework.stereotype.Component;

/** The places of order lines in the queues for stock. */
@Component
class ClaimQueue {

    private final ShelfQueries queries;
    private final ChainReader chains;
    private final Locks locks;
    private final Ids ids;

    ClaimQueue(ShelfQueries queries, ChainReader chains, Locks locks, Ids ids) {
        this.locks = locks;
        this.queries = queries;
        this.chains = chains;
        this.ids = ids;
    }

    Place place(String item, String site) {
        return new Place(ids.item(item), ids.site(site));
    }

    /**
     * The order whose lines took their place.
     *
     * @param concerned takes the shelves on which a line waits otherwise than before
     * @param releases takes what a line holds and no longer needs
     */
    Order queue(String number, Set<Place> concerned, List<Effect> releases) {
        var chain = chains.chain(number);
        var order = chain.order();
        var id = ids.order(number);
        var rows = isNew(order) ? List.<ClaimRow>of() : queries.claims(id);
        for (var row : rows) {
            var reserved = new Quantity(row.reserved());
            var flow = order.hasLine(row.line()) && isOf(order, row) ? chain.flow(row.line()) : null;
            var needed = flow == null
                    ? Quantity.ZERO
                    : flow.toShip().minus(flow.staged()).max(Quantity.ZERO);
            if (reserved.exceeds(needed)) {
                releases.add(new Effect.ReservationReleased(
                        new LineRef(number, row.line()), row.site(), row.item(), reserved.minus(needed)));
            }
        }
        if (order.state() == OrderState.CLEARED || !rows.isEmpty()) {
            for (var flow : chain.flows()) {
                if (flow.line().kind().isShipped() && write(id, order, flow, rows)) {
                    concerned.add(place(flow.line().item(), order.siteOf(flow.line())));
                }
            }
        }
        return order;
    }

    /** An order that this transaction has made and not let go yet takes no place. */
    private boolean isNew(Order order) {
        return order.state() == OrderState.SUBMITTED && locks.hasMade(order.number());
    }

    /** Whether a place in the queue is still for the item and the store that its line asks for. */
    private static boolean isOf(Order order, ClaimRow row) {
        var line = order.line(row.line());
        return line.item().equals(row.item()) && order.siteOf(line).equals(row.site());
    }

    /** Whether the line waits otherwise than before. */
    private boolean write(long id, Order order, LineFlow flow, List<ClaimRow> rows) {
        var no = flow.line().no();
        var waiting = flow.waiting().max(Quantity.ZERO);
        var stored = rows.stream().filter(row -> row.line() == no).findFirst();
        if (stored.isPresent()
                && !isOf(order, stored.get())
                && stored.get().reserved().signum() > 0) {
            return false;
        }
        if (stored.isPresent()) {
            if (isOf(order, stored.get())
                    && stored.get().waiting().compareTo(waiting.value()) == 0
                    && flow.line().requestedOn().equals(stored.get().requestedOn())) {
                return false;
            }
            queries.wait(
                    waiting.value(),
                    waiting.isPositive(),
                    flow.line().requestedOn(),
                    ids.item(flow.line().item()),
                    ids.site(order.siteOf(flow.line())),
                    id,
                    no);
            return true;
        }
        if (order.state() == OrderState.CLEARED) {
            var claim = new StockClaimEntity();
            claim.orderId = id;
            claim.lineNo = no;
            claim.itemId = ids.item(flow.line().item());
            claim.siteId = ids.site(order.siteOf(flow.line()));
            claim.requestedOn = flow.line().requestedOn();
            claim.clearing = queries.clearing(id);
            claim.reserved = BigDecimal.ZERO;
            claim.waiting = waiting.value();
            claim.waits = waiting.isPositive();
            queries.session().insert(claim);
            return true;
        }
        return false;
    }
}
