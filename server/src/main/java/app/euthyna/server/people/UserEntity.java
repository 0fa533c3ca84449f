package app.euthyna.server.people;

import app.euthyna.core.shared.Role;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "app_user")
public class UserEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    String username;
    String displayName;
    String passwordHash;

    @Enumerated(EnumType.STRING)
    Role role;

    boolean enabled;
    Instant since;
}
