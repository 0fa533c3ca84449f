package app.euthyna.core.shared;

/** A document by its kind and number, as it is linked from evidence, plans and proofs. */
public record DocumentRef(DocumentKind kind, String number) {

    public static DocumentRef order(String number) {
        return new DocumentRef(DocumentKind.ORDER, number);
    }

    @Override
    public String toString() {
        return kind.word().toLowerCase(java.util.Locale.ROOT) + " " + number;
    }
}
