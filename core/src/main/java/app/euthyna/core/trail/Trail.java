package app.euthyna.core.trail;

import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.Currency;
import java.util.List;
import java.util.Optional;

/**
 * The whole chain from any of its numbers (section 11).
 *
 * @param documents every document of the chain, in the order of time
 * @param neighbours other orders met on a shared invoice or payment, and credit notes of others whose credit pays here;
 *     named, not unfolded
 * @param flows where every unit is, per line of the root orders
 * @param ledger what the entries of these documents leave on each account
 */
public record Trail(
        DocumentRef start,
        List<DocumentRef> documents,
        List<Row> rows,
        List<Neighbour> neighbours,
        List<LineUnits> flows,
        MoneyLine money,
        List<AccountLine> ledger) {

    /** What kind of thing a row tells, for the filter. */
    public enum Aspect {
        ORDER,
        GOODS,
        MONEY,
        DECISION
    }

    /**
     * One row of the statement.
     *
     * @param parents the documents it came from: where its thread begins
     * @param dropped it no longer counts: voided, reversed or cancelled whole
     * @param undoes the row takes its document back: the pair belongs together
     * @param open running balance of what is billed and not settled
     */
    public record Row(
            Aspect aspect,
            LocalDate date,
            long moment,
            DocumentRef document,
            List<DocumentRef> parents,
            String what,
            String by,
            boolean dropped,
            boolean undoes,
            List<UnitMove> units,
            Money billed,
            Money settled,
            Money open) {}

    /**
     * A document that belongs to another trail.
     *
     * @param amount what of a credit note pays here; empty for an order
     */
    public record Neighbour(DocumentRef document, Optional<Money> amount) {}

    /** A quantity of an order line that a row moved. */
    public record UnitMove(LineRef orderLine, Measure measure, Quantity quantity) {}

    /** Where units can be. */
    public enum Measure {
        ORDERED,
        CANCELLED,
        STAGED,
        DISPATCHED,
        BILLED,
        RETURNED,
        CREDITED
    }

    /** An order line's units. */
    public record LineUnits(LineRef orderLine, LineFlow flow) {}

    /** Billed, settled with money or without, and open, over all invoices of the trail. */
    public record MoneyLine(Money billed, Money settled, Money open, LocalDate nextDue) {}

    /** What the trail's entries leave on an account. */
    public record AccountLine(AccountRole role, String account, Money balance) {}

    public static Trail of(TrailFacts facts, Currency currency) {
        return new TrailTeller(facts, new TrailRows(facts, currency)).tell();
    }
}
