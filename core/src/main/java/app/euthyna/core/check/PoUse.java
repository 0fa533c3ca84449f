package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.List;

/**
 * An earlier use of a PO number by the customer.
 *
 * @param order the order that took it, or the number of the imported invoice
 * @param net as it was ordered
 * @param left of it, without what was cancelled
 * @param invoices those that bill the order
 * @param toBill something of the order was shipped or done and is not billed
 */
public record PoUse(
        String order,
        String po,
        LocalDate on,
        Money net,
        Money left,
        List<String> invoices,
        Place place,
        boolean toBill) {

    /** Where a use was found. */
    public enum Place {
        OPEN_ORDER,
        CLOSED_ORDER,
        IMPORTED
    }

    public PoUse {
        invoices = List.copyOf(invoices);
        place = place == null ? Place.OPEN_ORDER : place;
    }

    /** As it stands in sentences: {@code order SO-1041}. */
    public String document() {
        return (place == Place.IMPORTED ? "invoice " : "order ") + order;
    }
}
