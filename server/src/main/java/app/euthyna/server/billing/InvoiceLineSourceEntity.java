package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "invoice_line_source")
public class InvoiceLineSourceEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long invoiceLineId;
    long rootOrderId;
    long dispatchId;
    int dispatchLineNo;
    BigDecimal quantity;
    BigDecimal cost;
    boolean ahead;
    BigDecimal earned = BigDecimal.ZERO;
}
