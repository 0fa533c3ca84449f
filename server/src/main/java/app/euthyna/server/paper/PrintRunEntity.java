package app.euthyna.server.paper;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "print_run")
public class PrintRunEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String paper;
    Instant printedAt;
    String printedBy;
}
