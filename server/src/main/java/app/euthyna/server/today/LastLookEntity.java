package app.euthyna.server.today;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "last_look")
public class LastLookEntity {
    @Id
    String username;

    Instant lookedAt;
}
