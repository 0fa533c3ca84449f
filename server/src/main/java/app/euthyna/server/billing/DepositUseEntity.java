package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.trail.DepositFact;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "deposit_use")
public class DepositUseEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long depositId;

    @Enumerated(EnumType.STRING)
    DepositFact.Kind kind;

    Long invoiceId;

    @Enumerated(EnumType.STRING)
    DocumentKind documentKind;

    String documentNumber;
    BigDecimal amount;
    LocalDate usedOn;
    long moment;
}
