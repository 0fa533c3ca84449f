package app.euthyna.server.lists;

import app.euthyna.core.ledger.Register;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.MappedSuperclass;
import java.time.LocalDate;

/**
 * What every row of a register has: a document or a line on its day, or its reversal, which counts the other way round.
 */
@MappedSuperclass
public abstract class RegisterRow {
    /** The document's or the line's; of a reversal the same, negative. */
    @Id
    protected Long id;

    protected LocalDate enteredOn;

    @Enumerated(EnumType.STRING)
    protected Register.Side side;
}
