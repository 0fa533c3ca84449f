package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.hibernate.annotations.Immutable;

/**
 * The way of an invoice that stands from its first order to its last payment; what has not happened yet, or does not
 * where nothing is shipped, is null.
 */
@Entity
@Immutable
@Table(name = "order_to_cash")
public class OrderToCashEntity {
    @Id
    Long id;

    String number;
    long customerId;
    BigDecimal gross;
    LocalDate orderedOn;
    LocalDate departedOn;
    LocalDate invoicedOn;
    LocalDate paidOn;
}
