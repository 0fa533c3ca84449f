package app.euthyna.server.people;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@Table(name = "deputy")
public class DeputyEntity {
    @Id
    String ofUser;

    String deputy;
    LocalDate awayFrom;
    LocalDate awayUntil;
}
