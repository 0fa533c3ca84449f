package app.euthyna.server.order;

import app.euthyna.core.order.OrderKind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;

/**
 * An order as somebody writes it. Whatever is left out is filled in: the date with the command's, the price with the list price, the
 * requested date with the order's.
 *
 * @param reference the sender's own, which can be taken in only once; null when there is none
 */
public record OrderDraft(String customer, String po, OrderKind kind, String site, LocalDate orderedOn, LocalDate requestedOn,
        String remark, String reference, List<Line> lines) {

    /**
     * A line as it is written.
     *
     * @param no null for a new line
     */
    public record Line(Integer no, String item, BigDecimal quantity, BigDecimal price, BigDecimal discount, LocalDate requestedOn) {
    }

    public OrderDraft {
        lines = lines == null ? List.of() : List.copyOf(lines);
    }
}
