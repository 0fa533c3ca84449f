package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.ledger.Register;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.hibernate.annotations.Immutable;

/** A row of the register of write-offs: what of an invoice was written off on its day, or is owed again. */
@Entity
@Immutable
@Table(name = "write_off_register")
public class WriteOffRegisterEntity {
    @Id
    Long id;

    @Enumerated(EnumType.STRING)
    Reduction.Kind kind;

    String number;
    long invoiceId;
    long customerId;
    LocalDate enteredOn;

    @Enumerated(EnumType.STRING)
    Register.Side side;

    BigDecimal amount;
    String reason;
}
