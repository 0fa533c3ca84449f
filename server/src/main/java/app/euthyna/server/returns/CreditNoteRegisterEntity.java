package app.euthyna.server.returns;

import app.euthyna.core.ledger.Register;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.hibernate.annotations.Immutable;

/**
 * A row of the register of credit notes: a credit note on its day, or its reversal, which counts the other way round.
 */
@Entity
@Immutable
@Table(name = "credit_note_register")
public class CreditNoteRegisterEntity {
    @Id
    Long id;

    long invoiceId;
    String number;
    long customerId;
    LocalDate enteredOn;

    @Enumerated(EnumType.STRING)
    Register.Side side;

    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
    String reason;
}
