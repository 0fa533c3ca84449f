package app.euthyna.server.check;

import app.euthyna.core.check.Quota;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.TransactionCache;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Quotas of rationed items, and what orders have used of them. */
@Component
public class QuotaStore {

    /** What orders in these states want counts. */
    private static final Set<OrderState> COUNTED =
            Set.of(OrderState.CLEARED, OrderState.COMPLETED, OrderState.CLOSED_SHORT);

    private final RecheckQueries queries;
    private final Ids ids;

    /** Many orders that are looked at together ask for the same sums. */
    private final TransactionCache<Use, Quantity> uses = TransactionCache.readThrough();

    QuotaStore(RecheckQueries queries, Ids ids) {
        this.queries = queries;
        this.ids = ids;
    }

    /**
     * Those of an order's items that its customer, the customer's region or its seller has on a day; the order itself
     * uses nothing yet.
     */
    List<Quota> of(Order order, Customer customer, LocalDate on) {
        var items = order.lines().stream().map(line -> line.item()).collect(Collectors.toSet());
        return items.isEmpty()
                ? List.of()
                : queries.quotas(Many.names(items), on, customer.code(), customer.region(), order.author()).stream()
                        .map(row -> quota(row, COUNTED.contains(order.state()) ? order.number() : ""))
                        .toList();
    }

    /** Items of these that several customers share a quota of. */
    Set<String> shared(Set<String> items) {
        return items.isEmpty() ? Set.of() : Set.copyOf(queries.shared(Many.names(items)));
    }

    /** All quotas of an item, the newest season first. */
    List<Quota> ofItem(String item) {
        return queries.quotasOf(item).stream().map(row -> quota(row, "")).toList();
    }

    private Quota quota(RecheckQueries.QuotaRow row, String beside) {
        var scope = Quota.Scope.valueOf(row.scope());
        return new Quota(
                row.item(),
                scope,
                row.scopeKey(),
                row.from(),
                row.to(),
                new Quantity(row.quantity()),
                uses.get(new Use(row.item(), scope, row.scopeKey(), row.from(), row.to(), beside), this::used));
    }

    /** What is summed over the orders of a season but one. */
    private record Use(String item, Quota.Scope scope, String key, LocalDate from, LocalDate to, String beside) {}

    /** Ordered less cancelled, of orders that are cleared or were. */
    private Quantity used(Use of) {
        return new Quantity(
                switch (of.scope()) {
                    case CUSTOMER -> queries.usedByCustomer(of.key(), of.item(), of.from(), of.to(), of.beside());
                    case REGION -> queries.usedByRegion(of.key(), of.item(), of.from(), of.to(), of.beside());
                    case SELLER -> queries.usedBySeller(of.key(), of.item(), of.from(), of.to(), of.beside());
                });
    }

    /** Something happened in this transaction that may have used more or less. */
    void forgetUses() {
        uses.takeAll();
    }

    /** Sets what someone may have of an item in a season; nothing takes the quota away. */
    public void set(Quota.Scope scope, String key, String item, LocalDate from, LocalDate to, Quantity granted) {
        queries.removeQuota(ids.item(item), scope.name(), key, from);
        if (granted != null) {
            var row = new QuotaEntity();
            row.itemId = ids.item(item);
            row.scope = scope.name();
            row.scopeKey = key;
            row.seasonFrom = from;
            row.seasonTo = to;
            row.quantity = granted.value();
            queries.session().insert(row);
        }
    }
}
