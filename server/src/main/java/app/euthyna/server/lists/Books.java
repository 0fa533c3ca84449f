package app.euthyna.server.lists;

import app.euthyna.core.ledger.Register;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** The ledger, as registers are held against it. */
public interface Books {

    /** What the entries that a register accounts for moved on the accounts of its roles, both days counted in. */
    List<Register.Moved> moved(Register register, Optional<LocalDate> from, Optional<LocalDate> to);

    /**
     * The next days on which something was posted that a register may account for; no more than so many.
     *
     * @param down the latest first
     */
    List<LocalDate> days(Register register, LocalDate from, LocalDate to, boolean down, int most);
}
