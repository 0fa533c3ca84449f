package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "refund")
public class RefundEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long customerId;

    @Enumerated(EnumType.STRING)
    DocumentKind sourceKind;

    String sourceNumber;

    /** Of the deposit, where it was one that had not become credit. */
    Long orderId;

    BigDecimal amount;
    LocalDate refundedOn;
    String reason;

    /** When it turned out that it did not reach the customer. */
    LocalDate reversedOn;

    Long reversedMoment;
}
