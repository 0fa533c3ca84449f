package app.euthyna.server.order;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Orders and cancellations, as parts of chains. */
@Component
public class OrderChains {

    private final OrderQueries queries;
    private final Ids ids;
    private final Company company;

    OrderChains(OrderQueries queries, Ids ids, Company company) {
        this.queries = queries;
        this.ids = ids;
        this.company = company;
    }

    /** Orders by the ids of their rows. */
    public Map<Long, Order> orders(Collection<String> numbers) {
        var headers = queries.headers(Many.names(numbers));
        if (headers.isEmpty()) {
            return Map.of();
        }
        headers.forEach(row -> {
            ids.orderIs(row.order().number, row.order().id);
            ids.customerIs(row.customer(), row.order().customerId);
            ids.siteIs(row.site(), row.order().siteId);
        });
        var lines = queries
                .linesOf(Many.ids(headers.stream().map(row -> row.order().id).toList()))
                .stream()
                .collect(Collectors.groupingBy(
                        line -> line.orderId, Collectors.mapping(OrderLineEntity::toCore, Collectors.toList())));
        var orders = new LinkedHashMap<Long, Order>();
        headers.forEach(row -> orders.put(
                row.order().id,
                row.order()
                        .toCore(
                                row.customer(),
                                row.site(),
                                company.currency(),
                                lines.getOrDefault(row.order().id, List.of()))));
        return orders;
    }

    /** Cancellations by the ids of their orders' rows, in the sequence in which they were made. */
    public Map<Long, List<Cancellation>> cancellations(Collection<Long> orders) {
        var rows = queries.cancelled(Many.ids(orders)).stream()
                .collect(Collectors.groupingBy(row -> row.cancellation().id, LinkedHashMap::new, Collectors.toList()));
        return rows.values().stream()
                .collect(Collectors.groupingBy(
                        of -> of.get(0).cancellation().orderId,
                        Collectors.mapping(OrderChains::cancellation, Collectors.toList())));
    }

    private static Cancellation cancellation(List<OrderQueries.CancelledRow> rows) {
        var cancellation = rows.get(0).cancellation();
        return new Cancellation(
                cancellation.number,
                rows.get(0).order(),
                cancellation.cancelledOn,
                cancellation.reason,
                rows.stream()
                        .map(row -> new Cancellation.Line(row.line().orderLineNo, new Quantity(row.line().quantity)))
                        .toList());
    }
}
