package app.euthyna.standin;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@Table(name = "simulated_payout")
public class SimulatedPayoutEntity {
    @Id
    String payoutKey;

    BigDecimal amount;
    String answer;
}
