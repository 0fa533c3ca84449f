package app.euthyna.core.check;

import java.util.Arrays;
import java.util.Optional;

/** The checks (section 4). */
public enum Check {
    BLOCKED("blocked", "Customer blocked"),
    CREDIT_LIMIT("credit-limit", "Credit limit"),
    OVERDUE("overdue", "Invoices overdue"),
    MISSING_PO("missing-po", "PO missing"),
    DUPLICATE_PO("duplicate-po", "PO used before"),
    ZERO_PRICE("zero-price", "Price"),
    PRICE_FLOOR("price-floor", "Below floor price"),
    MARGIN("margin", "Margin"),
    LICENCE("licence", "Licence"),
    QUOTA("quota", "Quota"),
    UNRESERVED("unreserved", "Short of stock"),
    DATES("dates", "Requested date"),
    UNUSUAL("unusual", "Unusual order");

    private final String code;
    private final String title;

    Check(String code, String title) {
        this.code = code;
        this.title = title;
    }

    /** The check of a code; empty when there is none. */
    public static Optional<Check> of(String code) {
        return Arrays.stream(values()).filter(check -> check.code.equals(code)).findFirst();
    }

    public String code() {
        return code;
    }

    public String title() {
        return title;
    }
}
