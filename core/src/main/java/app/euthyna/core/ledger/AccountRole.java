package app.euthyna.core.ledger;

import java.util.EnumSet;
import java.util.Locale;
import java.util.Set;

/** What an account is for; the posting map gives each role its account (section 8). */
public enum AccountRole {
    BANK,
    RECEIVABLES,
    INVENTORY,
    GOODS_OUT,
    GOODS_IN_INSPECTION,
    STOCK_CLEARING,
    DEPOSITS,
    CUSTOMER_CREDIT,
    DEFERRED_REVENUE,
    OUTPUT_VAT,
    REVENUE,
    SALES_RETURNS,
    COGS,
    WRITE_OFF,
    PAYMENT_DIFFERENCES,
    BAD_DEBT,
    SALES_DISCOUNTS,
    GIVEN_AWAY,
    STOCK_ADJUSTMENT,
    /** An account that no event posts to; manual entries may. */
    OTHER;

    private static final Set<AccountRole> CONTROL = EnumSet.of(
            RECEIVABLES,
            INVENTORY,
            GOODS_OUT,
            GOODS_IN_INSPECTION,
            DEPOSITS,
            CUSTOMER_CREDIT,
            DEFERRED_REVENUE,
            OUTPUT_VAT);

    /** Documents account for its balance to the cent (section 12), so nothing but their events may move it. */
    public boolean isControl() {
        return CONTROL.contains(this);
    }

    /** As it stands in sentences: {@code goods out}. */
    public String words() {
        return switch (this) {
            case COGS -> "cost of sales";
            case OUTPUT_VAT -> "output VAT";
            default -> code().replace('_', ' ');
        };
    }

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }
}
