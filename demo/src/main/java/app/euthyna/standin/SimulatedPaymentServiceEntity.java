package app.euthyna.standin;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "simulated_payment_service")
public class SimulatedPaymentServiceEntity {
    @Id
    int id;

    String behaviour;
}
