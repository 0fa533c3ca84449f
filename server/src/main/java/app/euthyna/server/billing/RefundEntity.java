package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "refund")
class RefundEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Column(name = "customer_id")
    Long customerId;

    @Enumerated(EnumType.STRING)
    @Column(name = "source_kind")
    DocumentKind sourceKind;

    @Column(name = "source_number")
    String sourceNumber;
    /** Of the deposit, where it was one that had not become credit. */
    @Column(name = "order_id")
    Long orderId;

    BigDecimal amount;

    @Column(name = "refunded_on")
    LocalDate refundedOn;

    String reason;
    /** When it turned out that it did not reach the customer. */
    @Column(name = "reversed_on")
    LocalDate reversedOn;

    @Column(name = "reversed_moment")
    Long reversedMoment;
}
