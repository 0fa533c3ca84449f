package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

/** What of an invoice is settled without money. A write-off stands where payments do, under its own number. */
@Entity
@Table(name = "reduction")
public class ReductionEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    @Enumerated(EnumType.STRING)
    Reduction.Kind kind;

    /** The write-off's row, or that of the money with which a discount was taken. */
    long paymentId;

    long invoiceId;
    long customerId;
    LocalDate reducedOn;
    BigDecimal amount;
    String reason;
    long moment;
    LocalDate reversedOn;
    Long reversedMoment;
}
