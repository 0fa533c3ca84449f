package app.euthyna.server.returns;

import app.euthyna.core.shared.Vat;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "credit_note_line")
public class CreditNoteLineEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long creditNoteId;
    int lineNo;
    int invoiceLineNo;
    long rootOrderId;
    int orderLineNo;
    Long returnId;
    Integer returnLineNo;
    String itemCode;
    String description;
    BigDecimal quantity;
    BigDecimal net;
    BigDecimal fee;

    @Enumerated(EnumType.STRING)
    Vat.Category vatCategory;

    BigDecimal vatRate;
    BigDecimal feePercent = BigDecimal.ZERO;
    BigDecimal ahead = BigDecimal.ZERO;
    BigDecimal deferred = BigDecimal.ZERO;
}
