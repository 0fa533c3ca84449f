package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "allocation")
public class AllocationEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    long paymentId;
    long invoiceId;
    BigDecimal amount;
    LocalDate allocatedOn;
    long moment;

    /** A discount for paying early that was taken with the money: it settles too, and is none of it. */
    boolean discount;
}
