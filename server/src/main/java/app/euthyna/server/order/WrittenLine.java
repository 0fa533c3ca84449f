package app.euthyna.server.order;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Shortage;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;

/**
 * A line as it is sent; {@code no} only for a line that exists.
 *
 * @param kind for a text or a subtotal; otherwise the item says what the line is
 * @param site empty for the order's store
 */
public record WrittenLine(
        Integer no,
        @Size(max = 40) String item,
        BigDecimal quantity,
        BigDecimal price,
        BigDecimal discount,
        LocalDate requestedOn,
        Wordy kind,
        @Size(max = 500) String text,
        @Size(max = 40) String site,
        Shortage shortage) {

    /** A kind of line that has no item. */
    enum Wordy {
        TEXT,
        SUBTOTAL
    }

    public OrderDraft.Line line() {
        return new OrderDraft.Line(
                no,
                item,
                quantity,
                price,
                discount,
                requestedOn,
                kind == null ? null : LineKind.valueOf(kind.name()),
                text,
                site,
                shortage);
    }
}
