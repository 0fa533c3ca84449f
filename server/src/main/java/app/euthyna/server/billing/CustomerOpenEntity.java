package app.euthyna.server.billing;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

/**
 * What a customer has open, added up, under the names that receivables by age have for it: in its sequence they are
 * read from here. Who owes nothing has no row. Written with each invoice that changes; the proof holds it against them.
 */
@Entity
@Table(name = "customer_open")
public class CustomerOpenEntity {
    @Id
    @Column(name = "customer_id")
    Long id;

    /** How many invoices have something open. */
    long invoices;

    BigDecimal still;

    /** The day on which the first of them is due. */
    LocalDate oldestDueOn;
}
