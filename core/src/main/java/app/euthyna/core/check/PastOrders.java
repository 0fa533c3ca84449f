package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.util.List;
import java.util.Map;

/**
 * What the customer ordered before: the newest orders, each with its net value, and the quantities in which items were
 * ordered.
 *
 * @param quantities by item, one figure an order
 */
public record PastOrders(List<Money> values, Map<String, List<Quantity>> quantities) {

    public static final PastOrders NONE = new PastOrders(List.of(), Map.of());

    public PastOrders {
        values = List.copyOf(values);
        quantities = Map.copyOf(quantities);
    }
}
