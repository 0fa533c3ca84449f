package app.euthyna.server.check;

import app.euthyna.core.check.Finding;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "finding")
public class FindingEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long orderId;
    String checkCode;
    String severity;

    @Enumerated(EnumType.STRING)
    Finding.State state;

    String brief;
    String evidenceType;
    String evidence;
    LocalDate since;
    String waivedBy;
    LocalDate waivedOn;
    String waiverReason;
}
