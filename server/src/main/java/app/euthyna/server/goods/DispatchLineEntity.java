package app.euthyna.server.goods;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

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
}
