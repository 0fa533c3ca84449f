package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.LocalDate;

@Entity
@Table(name = "payout")
public class PayoutEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long refundId;
    String state;
    LocalDate askedOn;
    int tries;
    String reference;
    String answer;
    boolean closed;

    @Version
    Long version;
}
