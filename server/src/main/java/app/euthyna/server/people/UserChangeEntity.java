package app.euthyna.server.people;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "user_change")
public class UserChangeEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String username;
    Instant at;
    String changedBy;
    String what;
}
