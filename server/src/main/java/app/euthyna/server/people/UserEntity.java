package app.euthyna.server.people;

import app.euthyna.core.shared.Role;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "app_user")
class UserEntity {
    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    Long id;

    String username;

    @Column(name = "display_name")
    String displayName;

    @Column(name = "password_hash")
    String passwordHash;

    @Enumerated(EnumType.STRING)
    Role role;

    boolean enabled;
}
