package app.euthyna.server.platform;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.LocalDate;

@Entity
@Table(name = "history")
public class HistoryEntity {
    @Id
    @GeneratedValue(generator = "history_moment")
    @SequenceGenerator(name = "history_moment", sequenceName = "history_moment", allocationSize = 1)
    Long moment;

    Long orderId;
    String documentKind;
    String documentNumber;
    String event;
    String stateTo;
    LocalDate happenedOn;
    /** The same day where a decision was made; else empty. */
    LocalDate decidedOn;

    Instant at;
    String byUser;
    String sentence;
    LocalDate writtenOn;
}
