package app.euthyna.core.order;

import app.euthyna.core.shared.Quantity;

/** The least quantity a line can be changed to, and what holds it there. */
public record Committed(Quantity least, Reason reason) {

    /** What part of the quantity is bound most firmly. */
    public enum Reason {
        STAGED("staged-goods", "staged, shipped or cancelled"),
        DEPARTED("departed-goods", "shipped or cancelled"),
        BILLED("already-billed", "billed or cancelled");

        private final String code;
        private final String words;

        Reason(String code, String words) {
            this.code = code;
            this.words = words;
        }

        String code() {
            return code;
        }

        String words() {
            return words;
        }
    }
}
