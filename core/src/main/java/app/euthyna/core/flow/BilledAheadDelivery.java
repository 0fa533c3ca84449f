package app.euthyna.core.flow;

import app.euthyna.core.shared.LineRef;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Goods that leave after they were billed, with the invoice line that billed them: its deferred revenue is earned by
 * that much.
 *
 * @param orders all that stand on the invoice, whose chains hold it whole
 */
public record BilledAheadDelivery(
        String customer, LineRef invoiceLine, String item, Invoice.Source source, Set<String> orders) {
    public BilledAheadDelivery {
        orders = Set.copyOf(orders);
    }

    /** An order, and those that stand with it on the invoices that had billed its goods ahead. */
    static Set<String> with(String order, List<BilledAheadDelivery> deliveries) {
        return Stream.concat(Stream.of(order), deliveries.stream().flatMap(one -> one.orders().stream()))
                .collect(Collectors.toSet());
    }
}
