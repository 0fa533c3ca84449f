package app.euthyna.server.batch;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "batch")
public class BatchEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String kind;
    Instant askedAt;
    String askedBy;
    String role;
    String standsIn;
    LocalDate onDate;
    String reason;

    /** Since when it has been stopped, and by whom; null while it runs and once nothing waits. */
    Instant stoppedAt;

    String stoppedBy;
}
