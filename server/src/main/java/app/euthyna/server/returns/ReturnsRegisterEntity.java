package app.euthyna.server.returns;

import app.euthyna.server.lists.RegisterRow;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import org.hibernate.annotations.Immutable;

/** A row of the register of returns: goods that were received on a day, or left inspection, or the reverse of it. */
@Entity
@Immutable
@Table(name = "returns_register")
public class ReturnsRegisterEntity extends RegisterRow {
    /** What became of goods. */
    public enum Event {
        RECEIVED,
        RESTOCK,
        SCRAP,
        SEND_BACK
    }

    @Enumerated(EnumType.STRING)
    Event event;

    String number;
    long customerId;
    String reason;
    long itemId;
    BigDecimal quantity;
    BigDecimal cost;
}
