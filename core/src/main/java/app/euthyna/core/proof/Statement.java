package app.euthyna.core.proof;

import java.math.BigDecimal;
import java.util.List;

/** What the proof says; numbered as in section 12 of the domain reference. Those not listed wait for the documents they are about. */
public enum Statement {
    ENTRIES_BALANCE(1, "Every entry balances", "entries"),
    TOTALS_FOLLOW(2, "Document totals follow from their lines", "documents"),
    QUANTITY_KEPT(3, "Ordered = cancelled + dispatched + still open", "lines"),
    WITHIN_BOUNDS(4, "Billed is within what was dispatched", "lines"),
    RECEIVABLES(5, "Receivables = what invoices have open", "invoices"),
    INVENTORY(6, "Inventory = value on the shelves", "shelves"),
    GOODS_OUT(7, "Goods out, not billed = cost of what left and is not billed", "dispatch lines"),
    CUSTOMER_CREDIT(8, "Customer credit = what payments have left", "payments"),
    WAS_CLEARED(13, "Nothing left or was billed that was not cleared", "movements");

    private final int no;
    private final String words;
    private final String lookedAt;

    Statement(int no, String words, String lookedAt) {
        this.no = no;
        this.words = words;
        this.lookedAt = lookedAt;
    }

    public int no() {
        return no;
    }

    public String words() {
        return words;
    }

    /** What it is counted in. */
    public String lookedAt() {
        return lookedAt;
    }

    /**
     * What a run found for a statement.
     *
     * @param documents what the documents say, or null where the statement compares no two figures
     * @param ledger what the ledger says, likewise
     */
    public record Result(Statement statement, long examined, BigDecimal documents, BigDecimal ledger,
            List<Failure> failures) {
        public Result {
            failures = List.copyOf(failures);
        }

        public boolean holds() {
            return failures.isEmpty();
        }
    }

    /**
     * One thing that does not agree.
     *
     * @param document the number to look at
     */
    public record Failure(String document, BigDecimal expected, BigDecimal actual, String sentence) {

        public BigDecimal difference() {
            return actual.subtract(expected);
        }
    }
}
