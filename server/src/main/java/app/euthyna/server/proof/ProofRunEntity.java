package app.euthyna.server.proof;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "proof_run")
public class ProofRunEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    Instant startedAt;
    long millis;
    String runBy;
    int failing;
    String result;
}
