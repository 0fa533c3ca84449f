package app.euthyna.server.goods;

import app.euthyna.core.goods.Claim;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Order lines that wait for stock, in the sequence in which they are served. */
@Component
class WaitingLines {

    private final ShelfQueries queries;
    private final Locks locks;

    WaitingLines(ShelfQueries queries, Locks locks) {
        this.queries = queries;
        this.locks = locks;
    }

    /** A line that waits, with whose it is. */
    record Waiting(Claim claim, long customer) {}

    record Row(long orderId, int lineNo, BigDecimal waiting, LocalDate requestedOn, long clearing) {}

    /** The head of the queue. Numbers are looked up afterwards: joined, H2 would sort the whole queue. */
    List<Waiting> head(Place place) {
        var head = queries.head(place.item(), place.site());
        if (head.isEmpty()) {
            return List.of();
        }
        var orders = queries
                .orders(Many.ids(head.stream().map(Row::orderId).distinct().toList()))
                .stream()
                .collect(Collectors.toMap(ShelfQueries.OrderRow::id, Function.identity()));
        return head.stream()
                .map(w -> new Waiting(
                        new Claim(
                                new LineRef(orders.get(w.orderId()).number(), w.lineNo()),
                                new Quantity(w.waiting()),
                                w.requestedOn(),
                                w.clearing()),
                        orders.get(w.orderId()).customerId()))
                .toList();
    }

    /** Those at the head of a queue whose customers this transaction has locked. */
    List<Claim> ofLocked(List<Waiting> head) {
        return head.stream()
                .takeWhile(waiting -> locks.holdsCustomer(waiting.customer()))
                .map(Waiting::claim)
                .toList();
    }

    /** Whether a shelf has anything that nobody has reserved. */
    boolean isFree(Place place) {
        return queries.free(place.item(), place.site()) > 0;
    }
}
