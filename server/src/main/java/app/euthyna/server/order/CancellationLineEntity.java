package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "cancellation_line")
public class CancellationLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long cancellationId;
    long rootOrderId;
    int orderLineNo;
    BigDecimal quantity;
}
