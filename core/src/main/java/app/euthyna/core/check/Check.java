package app.euthyna.core.check;

/** The checks that exist so far (section 4). */
public enum Check {
    BLOCKED("blocked", "Customer blocked"),
    CREDIT_LIMIT("credit-limit", "Credit limit"),
    OVERDUE("overdue", "Invoices overdue"),
    DUPLICATE_PO("duplicate-po", "PO used before"),
    ZERO_PRICE("zero-price", "Price"),
    PRICE_FLOOR("price-floor", "Below floor price"),
    LICENCE("licence", "Licence"),
    UNRESERVED("unreserved", "Short of stock");

    private final String code;
    private final String title;

    Check(String code, String title) {
        this.code = code;
        this.title = title;
    }

    public String code() {
        return code;
    }

    public String title() {
        return title;
    }
}
