package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.server.lists.RegisterRow;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import org.hibernate.annotations.Immutable;

/** A row of the register of write-offs: what of an invoice was written off on its day, or is owed again. */
@Entity
@Immutable
@Table(name = "write_off_register")
public class WriteOffRegisterEntity extends RegisterRow {
    String number;
    long customerId;

    @Enumerated(EnumType.STRING)
    Reduction.Kind kind;

    long invoiceId;

    BigDecimal amount;
    String reason;
}
