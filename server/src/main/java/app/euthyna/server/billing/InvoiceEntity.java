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

    /** A discount for paying early; null where none was agreed. */
    BigDecimal earlyPercent;

    LocalDate earlyUntil;

    /** Something of it was settled without money once; nobody asks for that of other invoices. */
    boolean reduced;

    /** The customer does not agree with it, or with a part of it. */
    boolean disputed;
}
