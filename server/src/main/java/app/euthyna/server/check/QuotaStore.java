package app.euthyna.server.check;

import app.euthyna.core.check.Quota;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Quotas of rationed items, and what orders have used of them. */
@Component
public class QuotaStore {

    private final RecheckQueries queries;
    private final Ids ids;

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
                        .map(row -> quota(row, order.number()))
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
                used(row.item(), scope, row.scopeKey(), row.from(), row.to(), beside));
    }

    /** Ordered less cancelled, of orders that are cleared or were. */
    private Quantity used(String item, Quota.Scope scope, String key, LocalDate from, LocalDate to, String beside) {
        return new Quantity(
                switch (scope) {
                    case CUSTOMER -> queries.usedByCustomer(key, item, from, to, beside);
                    case REGION -> queries.usedByRegion(key, item, from, to, beside);
                    case SELLER -> queries.usedBySeller(key, item, from, to, beside);
                });
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
