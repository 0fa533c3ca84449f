package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "payment")
public class PaymentEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long customerId;
    LocalDate receivedOn;
    BigDecimal amount;
    BigDecimal leftAmount;

    @Version
    Long version;

    @Enumerated(EnumType.STRING)
    DocumentKind kind = DocumentKind.PAYMENT;

    BigDecimal refunded = BigDecimal.ZERO;
    boolean reversed;

    /** The date of the reversal. */
    LocalDate reversedOn;

    /** What the payer wrote. */
    String reference = "";
}
