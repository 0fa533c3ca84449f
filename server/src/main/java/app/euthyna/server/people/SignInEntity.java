package app.euthyna.server.people;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@Table(name = "sign_in")
public class SignInEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String username;
    String address;
    Instant at;
    String outcome;
}
