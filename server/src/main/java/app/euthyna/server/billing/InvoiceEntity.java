package app.euthyna.server.billing;

import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Unended;
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

    /**
     * From this day on nothing of it is open; {@link Unended#DAY} as long as something is. Null where nothing ever was.
     */
    LocalDate openUntil;

    /** The first day on which something was set against it or it was taken back; null before. */
    LocalDate touchedOn;

    /** What of a new one is open: all. */
    void opened() {
        openAmount = gross;
        openUntil = gross.signum() == 0 ? null : Unended.DAY;
    }

    /** Something is set against it, or no more where it is negative. */
    void settle(BigDecimal amount, CommandContext context) {
        openAmount = openAmount.subtract(amount);
        openUntil = openAmount.signum() == 0 ? context.today() : Unended.DAY;
        touchedOn = touchedOn == null || context.date().isBefore(touchedOn) ? context.date() : touchedOn;
    }

    void takenBack(CommandContext context) {
        settle(openAmount, context);
        reversedOn = context.date();
    }
}
