package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "deposit")
public class DepositEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long customerId;
    long orderId;
    LocalDate receivedOn;
    BigDecimal amount;
    BigDecimal leftAmount;
    Long movedFrom;
    LocalDate reversedOn;
    Long reversedMoment;

    @Version
    Long version;
}
