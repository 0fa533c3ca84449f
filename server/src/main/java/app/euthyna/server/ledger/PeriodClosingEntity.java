package app.euthyna.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "period_closing")
public class PeriodClosingEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    LocalDate through;
    Instant closedAt;
    String closedBy;
    String remark;
    Instant reopenedAt;
    String reopenedBy;
    String reopening;
}
