package app.euthyna.server.goods;

import app.euthyna.server.platform.Unended;
import jakarta.annotation.Nullable;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Objects;

@Entity
@Table(name = "dispatch_line")
public class DispatchLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long dispatchId;
    long rootOrderId;
    int orderLineNo;
    int lineNo;
    long itemId;
    BigDecimal quantity;
    BigDecimal cost;

    /** The days of its dispatch. */
    LocalDate departedOn;

    LocalDate reversedOn;

    /** What of it is to be billed and was not yet; its cost. */
    BigDecimal unbilled = BigDecimal.ZERO;

    BigDecimal unbilledCost = BigDecimal.ZERO;

    /** From this day on nothing of it is; {@link Unended#DAY} as long as something is. Null where nothing ever was. */
    LocalDate unbilledUntil;

    /** The first day on which something of it was billed or came back; null before. */
    LocalDate takenOn;

    /** All of a new one that has left is unbilled, until it is known better: see {@link UnbilledLines}. */
    void left() {
        if (departedOn != null) {
            unbilled = quantity;
            unbilledCost = cost;
            unbilledUntil = Unended.DAY;
        }
    }

    /** Answers whether anything is different now. */
    boolean keep(BigDecimal quantity, BigDecimal ofCost, @Nullable LocalDate taken, LocalDate today) {
        var until = quantity.signum() != 0 ? Unended.DAY : wasUnbilled(taken) ? today : unbilledUntil;
        var isSame = unbilled.compareTo(quantity) == 0
                && unbilledCost.compareTo(ofCost) == 0
                && Objects.equals(unbilledUntil, until)
                && Objects.equals(takenOn, taken);
        unbilled = quantity;
        unbilledCost = ofCost;
        unbilledUntil = until;
        takenOn = taken;
        return !isSame;
    }

    /** Up to now: since it left, or between its day and the later one of an invoice that was written with it. */
    private boolean wasUnbilled(@Nullable LocalDate taken) {
        return Unended.DAY.equals(unbilledUntil)
                || (unbilledUntil == null && departedOn != null && taken != null && taken.isAfter(departedOn));
    }
}
