package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.math.BigDecimal;
import java.time.LocalDate;

@Entity
@Table(name = "invoice")
public class InvoiceEntity {
    @Id
    @GeneratedValue(generator = "document_id")
    Long id;

    String number;
    long customerId;
    LocalDate invoicedOn;
    LocalDate dueOn;
    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
    BigDecimal openAmount;

    @Version
    Long version;

    String text = "";
    LocalDate reversedOn;
    Long reversedMoment;
}
