package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "reminder")
public class ReminderEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long customerId;
    int step;
    LocalDate remindedOn;
    String remindedBy;
    Long messageId;
}
