package app.euthyna.server.unwind;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "unwinding")
public class UnwindingEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String intent;
    String subjectKind;
    String subjectNumber;
    long customerId;
    String words;
    String reasonCode;
    String reason;
    LocalDate undoneOn;
    Instant undoneAt;
    String undoneBy;
    String role;
    BigDecimal amount;
    String asked;
    String steps;
    String state;
    String waitsFor;
    String waitsAt;
    String returnNumber;
    String refunds;
    LocalDate touchedOn;
    String endedBy;
    String endedWhy;

    @Version
    Long version;
}
