package app.euthyna.core.ledger;

import app.euthyna.core.shared.DocumentKind;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What documents add up to beside the ledger. A register: documents day by day, each on its own day and again, the
 * other way round, on the day on which it was reversed. What it adds up to is what the entries of the same documents
 * moved on the accounts of some roles, on whatever days one looks. Or what stood at the end of a day, which is the
 * balance of the accounts of a role.
 */
public enum Register {
    /** Invoices less reversals. What is billed ahead is deferred; a discount is settled with an invoice, not billed. */
    SALES(
            Set.of(DocumentKind.INVOICE),
            Set.of(Postings.DISCOUNT_TAKEN),
            List.of(
                    new Tie("net", Set.of(AccountRole.REVENUE, AccountRole.DEFERRED_REVENUE), true),
                    new Tie("vat", Set.of(AccountRole.OUTPUT_VAT), true),
                    new Tie("gross", Set.of(AccountRole.RECEIVABLES), false))),
    /** Credit notes less reversals. What was billed ahead was no revenue yet; a discount was never paid. */
    CREDIT_NOTES(
            Set.of(DocumentKind.CREDIT_NOTE),
            Set.of(),
            List.of(
                    new Tie(
                            "net",
                            Set.of(
                                    AccountRole.SALES_RETURNS,
                                    AccountRole.DEFERRED_REVENUE,
                                    AccountRole.SALES_DISCOUNTS),
                            false),
                    new Tie("vat", Set.of(AccountRole.OUTPUT_VAT), false))),
    /** Payments and deposits less refunds. */
    RECEIPTS(
            Set.of(DocumentKind.PAYMENT, DocumentKind.DEPOSIT, DocumentKind.REFUND),
            Set.of(),
            List.of(new Tie("amount", Set.of(AccountRole.BANK), false))),
    /** What of invoices was written off, small differences and bad debt. */
    WRITE_OFFS(
            Set.of(DocumentKind.WRITE_OFF),
            Set.of(),
            List.of(new Tie("amount", Set.of(AccountRole.RECEIVABLES), true))),
    /** Goods that left, at cost: not billed, billed ahead and sold with it, or given away. */
    DISPATCHES(
            Set.of(DocumentKind.DISPATCH),
            Set.of(),
            List.of(new Tie("cost", Set.of(AccountRole.GOODS_OUT, AccountRole.COGS, AccountRole.GIVEN_AWAY), false))),
    /** Goods that came back, less what an inspection decided, at cost. */
    RETURNS(
            Set.of(DocumentKind.RETURN),
            Set.of(),
            List.of(new Tie("cost", Set.of(AccountRole.GOODS_IN_INSPECTION), false))),

    /** Goods that had left and were neither billed nor back, at cost. */
    SHIPPED_NOT_BILLED(new Tie("cost", Set.of(AccountRole.GOODS_OUT), false)),
    /** What was billed ahead of goods that had neither left nor been credited. */
    BILLED_NOT_SHIPPED(new Tie("net", Set.of(AccountRole.DEFERRED_REVENUE), true)),
    /** What invoices had open. */
    OPEN_INVOICES(new Tie("still", Set.of(AccountRole.RECEIVABLES), false)),
    /** Money and credit notes that were not set against anything. */
    ON_ACCOUNT(new Tie("still", Set.of(AccountRole.CUSTOMER_CREDIT), true)),
    /** Deposits that were not set against an invoice. */
    UNAPPLIED_DEPOSITS(new Tie("still", Set.of(AccountRole.DEPOSITS), true)),
    /** Goods that were back and not inspected yet, at cost. */
    IN_INSPECTION(new Tie("cost", Set.of(AccountRole.GOODS_IN_INSPECTION), false));

    /** Which day of a register a row is. */
    public enum Side {
        ISSUED,
        REVERSED
    }

    /**
     * What a figure of a register accounts for.
     *
     * @param figure its column
     * @param credited whether it grows with what is credited to them
     */
    public record Tie(String figure, Set<AccountRole> roles, boolean credited) {

        /**
         * The figure beside what was moved.
         *
         * @param registered what the column adds up to
         * @param moved of the accounts of its roles, debits positive
         */
        public Tied with(BigDecimal registered, List<Moved> moved) {
            var theirs = moved.stream()
                    .filter(one -> roles.contains(one.role()))
                    .map(one -> credited ? one.turned() : one)
                    .toList();
            var nothing = BigDecimal.ZERO.setScale(Math.max(registered.scale(), 0));
            var ledger = theirs.stream().map(Moved::amount).reduce(nothing, BigDecimal::add);
            return new Tied(figure, registered, theirs, ledger, registered.subtract(ledger));
        }
    }

    /** What was moved on an account for a role. */
    public record Moved(AccountRole role, String account, String name, BigDecimal amount) {
        private Moved turned() {
            return new Moved(role, account, name, amount.negate());
        }
    }

    /**
     * A figure of a register beside the ledger.
     *
     * @param accounts what it consists of, the way round in which the register has it
     * @param ledger their sum
     * @param difference what the register has more; nothing where the books agree
     */
    public record Tied(
            String figure, BigDecimal registered, List<Moved> accounts, BigDecimal ledger, BigDecimal difference) {

        public boolean agrees() {
            return difference.signum() == 0;
        }
    }

    @SuppressWarnings("ImmutableEnumChecker") // never changed
    private final Set<DocumentKind> documents;

    @SuppressWarnings("ImmutableEnumChecker") // never changed
    private final Set<String> besides;

    @SuppressWarnings("ImmutableEnumChecker") // never changed
    private final List<Tie> ties;

    Register(Set<DocumentKind> documents, Set<String> besides, List<Tie> ties) {
        this.documents = documents;
        this.besides = besides.stream()
                .flatMap(event -> Stream.of(event, Entry.REVERSAL + event))
                .collect(Collectors.toUnmodifiableSet());
        this.ties = ties;
    }

    /** What stood at the end of a day, whatever documents moved it. */
    Register(Tie balance) {
        this(Set.of(), Set.of(), List.of(balance));
    }

    /** Whether it tells what stood at the end of a day, not what happened on days. */
    public boolean isBalance() {
        return documents.isEmpty();
    }

    /** What documents stand in it; none where it is a balance, which all of them move. */
    public Set<DocumentKind> documents() {
        return documents;
    }

    /** Events with these documents that it does not tell of, nor of their reversal. */
    public Set<String> besides() {
        return besides;
    }

    public List<Tie> ties() {
        return ties;
    }

    public Optional<Tie> tie(String figure) {
        return ties.stream().filter(tie -> tie.figure().equals(figure)).findFirst();
    }

    /** Whether what an entry moved is the register's to account for. */
    public boolean accountsFor(Entry entry) {
        return (isBalance() || documents.contains(entry.document().kind())) && !besides.contains(entry.event());
    }
}
