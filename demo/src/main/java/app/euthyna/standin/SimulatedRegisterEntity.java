package app.euthyna.standin;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.time.LocalDate;

@Entity
@IdClass(SimulatedRegisterEntity.Key.class)
@Table(name = "simulated_register")
public class SimulatedRegisterEntity {
    @Id
    String licenceClass;

    @Id
    String number;

    LocalDate validTo;
    boolean answers;

    public record Key(String licenceClass, String number) {}
}
