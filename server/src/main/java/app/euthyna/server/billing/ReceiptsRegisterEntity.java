package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.lists.RegisterRow;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import org.hibernate.annotations.Immutable;

/** A row of the register of receipts: money that came in or was refunded on its day, or turned out not to have been. */
@Entity
@Immutable
@Table(name = "receipts_register")
public class ReceiptsRegisterEntity extends RegisterRow {
    String number;
    long customerId;

    @Enumerated(EnumType.STRING)
    DocumentKind kind;

    BigDecimal amount;
}
