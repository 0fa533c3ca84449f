package app.euthyna.server.billing;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@IdClass(ReminderInvoiceEntity.Key.class)
@Table(name = "reminder_invoice")
public class ReminderInvoiceEntity {
    @Id
    long reminderId;

    @Id
    long invoiceId;

    int step;
    BigDecimal openAmount;

    public record Key(long reminderId, long invoiceId) {}
}
