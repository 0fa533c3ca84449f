package app.euthyna.server.check;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "recheck_queue")
public class RecheckQueueEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long customerId;
    String reach;
    Instant queuedAt;
    String queuedBy;
}
