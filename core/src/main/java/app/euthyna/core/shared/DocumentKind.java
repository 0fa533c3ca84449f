package app.euthyna.core.shared;

/** Documents that exist so far, each with its own number series. */
public enum DocumentKind {
    ORDER("Order", "SO-"),
    CANCELLATION("Cancellation", "CA-"),
    DISPATCH("Dispatch", "D-"),
    INVOICE("Invoice", ""),
    PAYMENT("Payment", "P-"),
    DEPOSIT("Deposit", "DP-"),
    REFUND("Refund", "RF-"),
    RETURN("Return", "RT-"),
    CREDIT_NOTE("Credit note", "C-"),
    WRITE_OFF("Write-off", "W-"),
    UNEXPECTED_GOODS("Unexpected goods", "U-"),
    STOCK_RECEIPT("Stock receipt", "SR-"),
    STOCK_COUNT("Stock count", "CT-"),
    MANUAL_ENTRY("Manual entry", "ME-"),
    ENTRY("Entry", "J-"),
    QUOTE("Quote", "Q-"),
    BLANKET_ORDER("Blanket order", "B-"),
    RECURRING_ORDER("Recurring order", "R-");

    private final String word;
    private final String prefix;

    DocumentKind(String word, String prefix) {
        this.word = word;
        this.prefix = prefix;
    }

    public String word() {
        return word;
    }

    /**
     * The name under which entries are sealed in the hash chain. It never changes: what was sealed under another name
     * would no longer be what was posted.
     */
    public String sealedName() {
        return this == STOCK_COUNT ? "STOCK_CORRECTION" : name();
    }

    /**
     * What every number of this kind begins with; invoices begin with their year, credit notes with theirs after the C.
     */
    public String prefix() {
        return prefix;
    }
}
