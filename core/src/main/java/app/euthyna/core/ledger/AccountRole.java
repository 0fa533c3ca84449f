package app.euthyna.core.ledger;

import java.util.Locale;

/** What an account is for; the posting map gives each role its account (section 8). */
public enum AccountRole {
    BANK, RECEIVABLES, INVENTORY, GOODS_OUT, GOODS_IN_INSPECTION, STOCK_CLEARING, DEPOSITS, CUSTOMER_CREDIT, DEFERRED_REVENUE,
    OUTPUT_VAT, REVENUE, SALES_RETURNS, COGS, WRITE_OFF, GIVEN_AWAY, STOCK_ADJUSTMENT;

    public String code() {
        return name().toLowerCase(Locale.ROOT);
    }
}
