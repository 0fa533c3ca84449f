package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

/** What a customer does not agree with of an invoice; those that are over stay on record. */
@Entity
@Table(name = "dispute")
public class DisputeEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long invoiceId;

    /** Null for all that is open. */
    BigDecimal amount;

    String reason;
    String owner;
    LocalDate lookOn;
    LocalDate openedOn;
    String openedBy;

    @Enumerated(EnumType.STRING)
    Disputing.State state = Disputing.State.OPEN;

    LocalDate endedOn;
    String endedBy;
    String endedWhy;

    @Version
    Long version;
}
