package app.euthyna.server.flow;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "open_order")
public class OpenOrderEntity {
    @Id
    long orderId;

    long customerId;
    boolean cleared;
    boolean reviewable;
    boolean stageable;
    boolean staged;
    boolean billable;
    boolean toShip;
    boolean partShipped;
    LocalDate requestedOn;
    BigDecimal openGross;
    BigDecimal unbilledGross;
    BigDecimal billableNet;
    LocalDate billableSince;
}
