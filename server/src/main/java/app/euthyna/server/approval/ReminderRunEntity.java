package app.euthyna.server.approval;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "reminder_run")
public class ReminderRunEntity {
    @Id
    LocalDate runOn;

    Instant startedAt;
}
