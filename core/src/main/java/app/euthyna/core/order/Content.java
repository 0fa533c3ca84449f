package app.euthyna.core.order;

import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import java.util.List;

/**
 * What of an order a decision was made on: the part that matters. A remark, a PO or a date is not in it (section 6).
 *
 * @param site the store that it ships from
 */
public record Content(String customer, String site, ShipTo shipTo, List<Line> lines) {

    /** A line's item, quantity and price. */
    public record Line(int no, String item, Quantity quantity, Price price) {}

    /** What was decided on before orders could say where they ship to shipped to the customer. */
    public Content {
        shipTo = shipTo == null ? ShipTo.CUSTOMER : shipTo;
        lines = List.copyOf(lines);
    }

    public static Content of(Order order) {
        return new Content(
                order.customer(),
                order.site(),
                order.details().shipTo(),
                order.lines().stream()
                        .filter(line -> line.kind().isBilled())
                        .map(line -> new Line(line.no(), line.item(), line.quantity(), line.price()))
                        .toList());
    }

    /**
     * Whether a decision on this still stands for {@code now}: same customer and items, no quantity up, no price down.
     */
    public boolean covers(Content now) {
        return customer.equals(now.customer)
                && site.equals(now.site)
                && shipTo.equals(now.shipTo)
                && now.lines.stream()
                        .allMatch(line -> lines.stream()
                                .anyMatch(decided -> decided.no == line.no
                                        && decided.item.equals(line.item)
                                        && !line.quantity.exceeds(decided.quantity)
                                        && !line.price.isBelow(decided.price)));
    }
}
