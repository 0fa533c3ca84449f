package app.euthyna.server.goods;

import app.euthyna.core.goods.Claim;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Order lines that wait for stock, in the sequence in which they are served. */
@Component
class WaitingLines {

    private final JdbcClient jdbc;
    private final Ids ids;
    private final Locks locks;

    WaitingLines(JdbcClient jdbc, Ids ids, Locks locks) {
        this.jdbc = jdbc;
        this.ids = ids;
        this.locks = locks;
    }

    /** A line that waits, with whose it is. */
    record Waiting(Claim claim, long customer) {}

    private record Row(long orderId, int lineNo, BigDecimal waiting, LocalDate requestedOn, long clearing) {}

    /** The head of the queue. Numbers are looked up afterwards: joined, H2 would sort the whole queue. */
    List<Waiting> head(Place place) {
        var head = jdbc.sql("""
            select order_id, line_no, waiting, requested_on, clearing from stock_claim
            where item_id = ? and site_id = ? and waits = true
            order by item_id, site_id, waits, requested_on, clearing, order_id, line_no fetch first 50 rows only\
            """)
                .params(place.item(), place.site())
                .query(Row.class)
                .list();
        var orders = head.stream().map(Row::orderId).collect(Collectors.toSet());
        var numbers = ids.orderNumbers(orders);
        var customers = customers(orders);
        return head.stream()
                .map(w -> new Waiting(
                        new Claim(
                                new LineRef(numbers.get(w.orderId()), w.lineNo()),
                                new Quantity(w.waiting()),
                                w.requestedOn(),
                                w.clearing()),
                        customers.get(w.orderId())))
                .toList();
    }

    private Map<Long, Long> customers(Set<Long> orders) {
        var customers = new HashMap<Long, Long>();
        if (!orders.isEmpty()) {
            jdbc.sql("select id, customer_id from sales_order where id in (:orders)")
                    .param("orders", orders)
                    .query((r, n) -> customers.put(r.getLong(1), r.getLong(2)))
                    .list();
        }
        return customers;
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
        return jdbc.sql("select count(*) from shelf where item_id = ? and site_id = ? and on_hand > reserved")
                        .params(place.item(), place.site())
                        .query(Long.class)
                        .single()
                > 0;
    }
}
