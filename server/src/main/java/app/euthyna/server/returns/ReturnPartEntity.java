package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "return_part")
public class ReturnPartEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long returnLineId;
    int partNo;
    LocalDate receivedOn;
    String standing;
    Long invoiceId;
    Integer invoiceLineNo;
    BigDecimal quantity;
    BigDecimal cost;
    long moment;
    boolean reversed;
}
