package app.euthyna.server.order;

import app.euthyna.core.order.Details;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.Shortage;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;

/**
 * An order as someone writes it. Whatever is left out is filled in: the date with the command's, the price with the
 * list price, the requested date with the order's.
 *
 * @param reference the sender's own, which can be imported only once; null when there is none
 * @param details null where nothing is said of them; a revenue unit of null in them is the company's standard one
 */
public record OrderDraft(
        String customer,
        String po,
        OrderKind kind,
        String site,
        LocalDate orderedOn,
        LocalDate requestedOn,
        String remark,
        String reference,
        Details details,
        List<Line> lines) {

    /**
     * A line as it is written.
     *
     * @param no null for a new line
     * @param kind TEXT or SUBTOTAL for a line without an item; otherwise the item says it
     * @param text of a line without an item
     * @param site null for the order's store
     */
    public record Line(
            Integer no,
            String item,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            LocalDate requestedOn,
            LineKind kind,
            String text,
            String site,
            Shortage shortage) {

        /** A line of an item, from the order's store, that waits when it is short. */
        public Line(
                Integer no,
                String item,
                BigDecimal quantity,
                BigDecimal price,
                BigDecimal discount,
                LocalDate requestedOn) {
            this(no, item, quantity, price, discount, requestedOn, null, null, null, null);
        }

        boolean isWithoutItem() {
            return kind == LineKind.TEXT || kind == LineKind.SUBTOTAL;
        }
    }

    public OrderDraft {
        lines = lines == null ? List.of() : List.copyOf(lines);
    }

    /** A draft that says nothing beside its lines. */
    public OrderDraft(
            String customer,
            String po,
            OrderKind kind,
            String site,
            LocalDate orderedOn,
            LocalDate requestedOn,
            String remark,
            String reference,
            List<Line> lines) {
        this(customer, po, kind, site, orderedOn, requestedOn, remark, reference, null, lines);
    }
}
