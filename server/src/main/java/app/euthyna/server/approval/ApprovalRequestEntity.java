package app.euthyna.server.approval;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "approval_request")
public class ApprovalRequestEntity {
    @Id
    long orderId;

    String state;
    LocalDate askedOn;
    String reasons;
    String waitsFor;
    String closedBy;
    LocalDate closedOn;
    String closing;
}
