package app.euthyna.server.billing;

import app.euthyna.server.lists.RegisterRow;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import org.hibernate.annotations.Immutable;

/** A row of the sales register: an invoice on its day, or its reversal, which counts the other way round. */
@Entity
@Immutable
@Table(name = "sales_register")
public class SalesRegisterEntity extends RegisterRow {
    String number;
    long customerId;
    long invoiceId;

    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
}
