package app.euthyna.server.check;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "daily_recheck")
public class DailyRecheckEntity {
    @Id
    LocalDate runOn;

    Instant startedAt;
    Instant finishedAt;
}
