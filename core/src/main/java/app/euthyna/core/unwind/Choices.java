package app.euthyna.core.unwind;

import java.math.BigDecimal;
import java.util.Optional;

/**
 * What whoever undoes something has decided.
 *
 * @param money what becomes of money that hangs on what is undone; empty where that was not said
 * @param restockingPercent retained of what goods are worth that come back
 * @param freight their freight is credited with them
 */
public record Choices(Optional<MoneyTo> money, BigDecimal restockingPercent, boolean freight) {

    public static final Choices NONE = new Choices(Optional.empty(), BigDecimal.ZERO, false);

    /** Where money goes. */
    public enum MoneyTo {
        /** Back to the customer. */
        REFUND,
        /** It stays, to be set against other invoices. */
        CUSTOMER_CREDIT
    }

    boolean refunds() {
        return money.filter(to -> to == MoneyTo.REFUND).isPresent();
    }
}
