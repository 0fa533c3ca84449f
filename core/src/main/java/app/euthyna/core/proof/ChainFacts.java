package app.euthyna.core.proof;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.core.trail.PaymentFact;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/**
 * What is stored of a chain, for the proof to recompute.
 *
 * @param roots the chains of the trail's root orders
 * @param storedTotals of orders and invoices, as the documents carry them
 * @param storedOpen of invoices, as their lists carry it
 * @param payments those with an allocation to an invoice of the roots
 * @param deposits for the root orders, and those applied to their invoices
 * @param entries of all documents of the trail
 * @param mirrors the entry that each mirroring entry undoes, by number
 * @param written the day on which each entry was written, by number
 * @param moves of goods and bills, each with the state its order had at that moment
 */
public record ChainFacts(
        List<Chain> roots,
        Map<DocumentRef, StoredTotals> storedTotals,
        Map<String, Money> storedOpen,
        List<PaymentFact> payments,
        List<DepositFact> deposits,
        List<Entry> entries,
        Map<String, String> mirrors,
        Map<String, LocalDate> written,
        List<Move> moves) {

    /** Totals as a document carries them. */
    public record StoredTotals(Money net, Money vat, Money gross) {
        public static StoredTotals of(Totals totals) {
            return new StoredTotals(totals.net(), totals.vat(), totals.gross());
        }
    }

    /** A departure or a bill of an order. */
    public record Move(DocumentRef document, String order, OrderState stateThen) {}

    public ChainFacts {
        roots = List.copyOf(roots);
        storedTotals = Map.copyOf(storedTotals);
        storedOpen = Map.copyOf(storedOpen);
        payments = List.copyOf(payments);
        deposits = List.copyOf(deposits);
        entries = List.copyOf(entries);
        mirrors = Map.copyOf(mirrors);
        written = Map.copyOf(written);
        moves = List.copyOf(moves);
    }
}
