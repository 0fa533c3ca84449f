package app.euthyna.server.billing;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "invoice_line")
public class InvoiceLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long invoiceId;
    int lineNo;
    long rootOrderId;
    int orderLineNo;

    @Enumerated(EnumType.STRING)
    LineKind kind;

    String itemCode;
    String description;
    BigDecimal quantity;
    BigDecimal unitPrice;
    BigDecimal discountPercent;
    BigDecimal net;

    @Enumerated(EnumType.STRING)
    Vat.Category vatCategory;

    BigDecimal vatRate;
    BigDecimal deferred = BigDecimal.ZERO;
}
