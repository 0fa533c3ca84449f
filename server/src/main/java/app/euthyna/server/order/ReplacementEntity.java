package app.euthyna.server.order;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "replacement")
public class ReplacementEntity {
    @Id
    long orderId;

    String documentKind;
    String documentNumber;
}
