package app.euthyna.core.check;

import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.Locale;

/**
 * How much of a rationed item someone may have in a season, and what cleared orders have used of it, without the order
 * looked at.
 *
 * @param key the code of the customer, the name of the region, the seller's user name
 */
public record Quota(
        String item, Scope scope, String key, LocalDate from, LocalDate to, Quantity granted, Quantity used) {

    /** For whom a quota counts. */
    public enum Scope {
        CUSTOMER,
        REGION,
        SELLER;

        public String words() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What may still be ordered. */
    public Quantity left() {
        return granted.minus(used).max(Quantity.ZERO);
    }
}
