package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "return_line")
public class ReturnLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long returnId;
    int lineNo;
    long rootOrderId;
    int orderLineNo;
    long dispatchId;
    int dispatchLineNo;
    Long invoiceId;
    Integer invoiceLineNo;
    long itemId;
    long siteId;
    BigDecimal authorised;
}
