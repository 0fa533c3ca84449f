package app.euthyna.core.trail;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.shared.DocumentRef;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a trail is made of: the root orders' chains, the payments allocated to their invoices (or the payment that one
 * starts from), decisions, and all entries of these documents.
 *
 * @param deposits for the root orders, and those applied to their invoices
 * @param refunds of customer credit from these
 * @param returnMoves what came back on the roots' returns, and what became of it
 * @param reversals of the roots' dispatches and invoices
 * @param start the document one came from
 * @param paidElsewhere orders that the same payments settled on other invoices
 * @param stamps who brought each document about, and when
 */
public record TrailFacts(
        DocumentRef start,
        List<Chain> roots,
        List<PaymentFact> payments,
        List<DepositFact> deposits,
        List<RefundFact> refunds,
        List<ReturnMove> returnMoves,
        List<ReversalFact> reversals,
        Set<String> paidElsewhere,
        List<Remark> remarks,
        Map<DocumentRef, Stamp> stamps,
        List<Entry> entries) {
    public TrailFacts {
        roots = List.copyOf(roots);
        payments = List.copyOf(payments);
        deposits = List.copyOf(deposits);
        refunds = List.copyOf(refunds);
        returnMoves = List.copyOf(returnMoves);
        reversals = List.copyOf(reversals);
        paidElsewhere = Set.copyOf(paidElsewhere);
        remarks = List.copyOf(remarks);
        stamps = Map.copyOf(stamps);
        entries = List.copyOf(entries);
    }
}
