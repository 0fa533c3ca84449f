package app.euthyna.server.approval;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "approval")
public class ApprovalEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long orderId;
    String level;
    String approvedBy;
    LocalDate approvedOn;
    String reason;
    String content;
}
