package app.euthyna.server.returns;

/** What is to become of what a credit note leaves beyond its invoice. */
public enum CreditWish {
    /** It stays, to be set against later invoices. */
    KEEP("kept as customer credit"),
    /** It goes back to the customer. */
    REFUND("to be refunded");

    private final String words;

    CreditWish(String words) {
        this.words = words;
    }

    String words() {
        return words;
    }

    static CreditWish stored(String name) {
        return name.isEmpty() ? null : valueOf(name);
    }
}
