package app.euthyna.server.bank;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

@Entity
@IdClass(BankEntryPaymentEntity.Key.class)
@Table(name = "bank_entry_payment")
public class BankEntryPaymentEntity {
    @Id
    long entryId;

    @Id
    long paymentId;

    public record Key(long entryId, long paymentId) {}
}
