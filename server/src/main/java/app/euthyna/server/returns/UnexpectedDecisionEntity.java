package app.euthyna.server.returns;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "unexpected_decision")
public class UnexpectedDecisionEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long goodsId;
    String kind;
    BigDecimal quantity;
    LocalDate decidedOn;
    String decidedBy;
    String reason;
    Long returnId;
}
