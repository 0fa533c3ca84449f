package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "deposit_request")
public class DepositRequestEntity {
    @Id
    long orderId;

    BigDecimal percent;
    BigDecimal amount;
    LocalDate askedOn;
    String askedBy;
}
