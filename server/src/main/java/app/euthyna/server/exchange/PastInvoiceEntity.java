package app.euthyna.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "past_invoice")
public class PastInvoiceEntity {
    @Id
    @GeneratedValue(generator = "row_id")
    Long id;

    long customerId;
    String number;
    String po;
    String poNormal;
    String poFolded;
    LocalDate invoicedOn;
    BigDecimal net;
}
