package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.hibernate.annotations.Immutable;

/** A month that moved what customers owe: what was billed in it, and what was owed at its end. */
@Entity
@Immutable
@Table(name = "receivables_month")
public class ReceivablesMonthEntity {
    @Id
    Long id;

    LocalDate monthOn;
    LocalDate lastOn;
    int days;
    BigDecimal billed;
    BigDecimal owed;
}
