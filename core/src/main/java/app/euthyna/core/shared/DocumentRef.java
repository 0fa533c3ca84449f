package app.euthyna.core.shared;

import java.util.Locale;

/** A document by its kind and number, as it is linked from evidence, plans and proofs. */
public record DocumentRef(DocumentKind kind, String number) {

    public static DocumentRef order(String number) {
        return new DocumentRef(DocumentKind.ORDER, number);
    }

    /** As it begins a sentence. */
    public String capital() {
        return kind.word() + " " + number;
    }

    @Override
    public String toString() {
        return kind.word().toLowerCase(Locale.ROOT) + " " + number;
    }
}
