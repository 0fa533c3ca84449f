package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.trail.DepositFact;
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
@Table(name = "deposit")
class DepositEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String number;

    @Column(name = "customer_id")
    Long customerId;

    @Column(name = "order_id")
    Long orderId;

    @Column(name = "received_on")
    LocalDate receivedOn;

    BigDecimal amount;

    @Column(name = "left_amount")
    BigDecimal leftAmount;

    @Column(name = "moved_from")
    Long movedFrom;

    @ElementCollection
    @CollectionTable(name = "deposit_use", joinColumns = @JoinColumn(name = "deposit_id"))
    List<Use> uses = new ArrayList<>();

    @Version
    Long version;

    /** What a part of it was put to; negative where it was taken off again. */
    @Embeddable
    record Use(
            @Enumerated(EnumType.STRING) DepositFact.Kind kind,
            @Column(name = "invoice_id") Long invoiceId,

            @Enumerated(EnumType.STRING) @Column(name = "document_kind")
            DocumentKind documentKind,

            @Column(name = "document_number") String documentNumber,
            BigDecimal amount,
            @Column(name = "used_on") LocalDate usedOn,
            long moment) {}
}
