package app.euthyna.server.billing;

import app.euthyna.core.ledger.Register;
import app.euthyna.core.shared.DocumentKind;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.hibernate.annotations.Immutable;

/** A row of the register of receipts: money that came in or was refunded on its day, or turned out not to have been. */
@Entity
@Immutable
@Table(name = "receipts_register")
public class ReceiptsRegisterEntity {
    @Id
    Long id;

    @Enumerated(EnumType.STRING)
    DocumentKind kind;

    String number;
    long customerId;
    LocalDate enteredOn;

    @Enumerated(EnumType.STRING)
    Register.Side side;

    BigDecimal amount;
}
