package app.euthyna.standin;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "simulated_carrier")
public class SimulatedCarrierEntity {
    @Id
    int id;

    boolean answers;
}
