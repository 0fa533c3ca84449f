package app.euthyna.core.proof;

import java.math.BigDecimal;
import java.util.List;

/** What the proof says; numbered as in section 12 of the domain reference. */
public enum Statement {
    ENTRIES_BALANCE(1, "Every entry balances", "entries"),
    TOTALS_FOLLOW(2, "Document totals follow from their lines", "documents"),
    QUANTITY_KEPT(3, "Ordered = cancelled + dispatched + still open", "lines"),
    WITHIN_BOUNDS(4, "Billed and returned are within what was dispatched, credited within what was billed", "lines"),
    RECEIVABLES(5, "Receivables = open amounts of invoices", "invoices"),
    INVENTORY(6, "Inventory = value of stock", "stock balances"),
    GOODS_OUT(7, "Goods out, not billed = cost of goods shipped and not billed", "dispatch lines"),
    CUSTOMER_CREDIT(
            8,
            "Deposits and customer credit = unapplied and unallocated amounts",
            "deposits, payments and credit notes"),
    DEFERRED_REVENUE(9, "Deferred revenue = billed, neither dispatched nor credited", "invoice lines"),
    OUTPUT_VAT(10, "Output VAT = VAT of invoices − credits, write-offs and discounts", "invoices"),
    MIRRORS(11, "A reversal mirrors its original exactly, once", "reversals"),
    NUMBERS(12, "Invoice numbers have no gaps and no duplicates", "numbers"),
    WAS_CLEARED(13, "Nothing was shipped or billed that was not cleared", "movements"),
    PERIODS(14, "No entry was posted into a closed period", "entries"),
    HASH_CHAIN(15, "The hash chain is intact", "entries"),
    PO_ONCE(16, "No PO is used twice without a waiver", "orders"),
    DATES_IN_ORDER(
            17, "No document is dated before one that it comes from, nor ahead of the day it was written", "documents");

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
    public record Result(
            Statement statement, long examined, BigDecimal documents, BigDecimal ledger, List<Failure> failures) {
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
