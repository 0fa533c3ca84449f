package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@IdClass(SalesAgreementLineEntity.Key.class)
@Table(name = "sales_agreement_line")
public class SalesAgreementLineEntity {
    @Id
    long agreementId;

    @Id
    int lineNo;

    String itemCode;
    String description;
    BigDecimal quantity;
    BigDecimal unitPrice;
    BigDecimal discountPercent;

    public record Key(long agreementId, int lineNo) {}
}
