package app.euthyna.server.billing;

import app.euthyna.core.ledger.Register;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.hibernate.annotations.Immutable;

/** A row of the sales register: an invoice on its day, or its reversal, which counts the other way round. */
@Entity
@Immutable
@Table(name = "sales_register")
public class SalesRegisterEntity {
    @Id
    Long id;

    long invoiceId;
    String number;
    long customerId;
    LocalDate enteredOn;

    @Enumerated(EnumType.STRING)
    Register.Side side;

    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
}
