package app.euthyna.server.billing;

import app.euthyna.core.shared.Vat;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@IdClass(ReductionVatEntity.Key.class)
@Table(name = "reduction_vat")
public class ReductionVatEntity {
    @Id
    long reductionId;

    @Enumerated(EnumType.STRING)
    @Id
    Vat.Category vatCategory;

    @Id
    BigDecimal vatRate;

    BigDecimal base;
    BigDecimal net;
    BigDecimal tax;

    public record Key(long reductionId, Vat.Category vatCategory, BigDecimal vatRate) {}
}
