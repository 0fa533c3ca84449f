package app.euthyna.server.returns;

import app.euthyna.server.lists.RegisterRow;
import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.math.BigDecimal;
import org.hibernate.annotations.Immutable;

/**
 * A row of the register of credit notes: a credit note on its day, or its reversal, which counts the other way round.
 */
@Entity
@Immutable
@Table(name = "credit_note_register")
public class CreditNoteRegisterEntity extends RegisterRow {
    String number;
    long customerId;
    long invoiceId;

    BigDecimal net;
    BigDecimal vat;
    BigDecimal gross;
    String reason;
}
