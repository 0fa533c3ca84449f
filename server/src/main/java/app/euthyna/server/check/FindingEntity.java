package app.euthyna.server.check;

import app.euthyna.core.check.Finding;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "finding")
class FindingEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    @Column(name = "order_id")
    Long orderId;

    @Column(name = "check_code")
    String checkCode;

    String severity;

    @Enumerated(EnumType.STRING)
    Finding.State state;

    String brief;

    @Column(name = "evidence_type")
    String evidenceType;

    String evidence;
    LocalDate since;

    @Column(name = "waived_by")
    String waivedBy;

    @Column(name = "waived_on")
    LocalDate waivedOn;

    @Column(name = "waiver_reason")
    String waiverReason;
}
