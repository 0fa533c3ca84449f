package app.euthyna.server.goods;

import app.euthyna.server.lists.RegisterRow;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import org.hibernate.annotations.Immutable;

/** A row of the register of dispatches: a line that left on a day, or is back on its shelf as if it never had. */
@Entity
@Immutable
@Table(name = "dispatch_register")
public class DispatchRegisterEntity extends RegisterRow {
    long dispatchId;
    long orderId;
    long itemId;
    BigDecimal quantity;
    BigDecimal cost;
}
