package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@IdClass(SalesAgreementCallEntity.Key.class)
@Table(name = "sales_agreement_call")
public class SalesAgreementCallEntity {
    @Id
    long agreementId;

    @Id
    LocalDate dueOn;

    @Id
    int lineNo;

    BigDecimal quantity;
    Long orderId;

    public record Key(long agreementId, LocalDate dueOn, int lineNo) {}
}
