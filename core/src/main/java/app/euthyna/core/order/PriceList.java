package app.euthyna.core.order;

import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.util.Comparator;
import java.util.List;

/** Prices of an item by customer and quantity. */
public final class PriceList {

    private PriceList() {}

    /**
     * A price from a quantity on.
     *
     * @param customer whose price it is, by its code, or empty for everybody's
     * @param unit in the company's currency for one unit, up to 4 decimals
     */
    public record Break(String customer, Quantity from, BigDecimal unit) {}

    /**
     * The price for a quantity: the customer's own breaks come before everybody's, and of those the greatest that the
     * quantity reaches. Common practice.
     *
     * @param list the item's own price, for what no break reaches
     */
    public static BigDecimal price(BigDecimal list, List<Break> breaks, String customer, Quantity quantity) {
        return breaks.stream()
                .filter(b -> (b.customer().isEmpty() || b.customer().equals(customer))
                        && !b.from().exceeds(quantity))
                .max(Comparator.comparing((Break b) -> !b.customer().isEmpty())
                        .thenComparing(b -> b.from().value()))
                .map(Break::unit)
                .orElse(list);
    }
}
