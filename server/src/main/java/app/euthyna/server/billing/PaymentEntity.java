package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

@Entity
@Table(name = "payment")
class PaymentEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Enumerated(EnumType.STRING)
    DocumentKind kind = DocumentKind.PAYMENT;

    @Column(name = "customer_id")
    Long customerId;

    @Column(name = "received_on")
    LocalDate receivedOn;

    BigDecimal amount;

    @Column(name = "left_amount")
    BigDecimal leftAmount;

    BigDecimal refunded = BigDecimal.ZERO;
    boolean reversed;
    /** What the payer wrote. */
    String reference = "";

    @ElementCollection
    @CollectionTable(name = "allocation", joinColumns = @JoinColumn(name = "payment_id"))
    List<Allocation> allocations = new ArrayList<>();

    @Version
    Long version;

    @Embeddable
    record Allocation(
            @Column(name = "invoice_id") Long invoiceId,
            BigDecimal amount,
            @Column(name = "allocated_on") LocalDate allocatedOn,
            long moment) {}
}
