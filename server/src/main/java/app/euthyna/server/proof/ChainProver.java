package app.euthyna.server.proof;

import app.euthyna.core.ledger.Entry;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.proof.ChainFacts;
import app.euthyna.core.proof.ChainProof;
import app.euthyna.core.proof.Statement;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import app.euthyna.server.trail.TrailReader;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.springframework.stereotype.Component;

/** Gathers what is stored of a chain and has the core prove it. */
@Component
class ChainProver {

    private final TrailReader trails;
    private final LedgerReader ledger;
    private final Company company;
    private final ProofQueries queries;
    private final OpenInvoices openInvoices;

    ChainProver(
            TrailReader trails, LedgerReader ledger, Company company, ProofQueries queries, OpenInvoices openInvoices) {
        this.openInvoices = openInvoices;
        this.ledger = ledger;
        this.trails = trails;
        this.company = company;
        this.queries = queries;
    }

    List<Statement.Result> prove(DocumentKind kind, String number) {
        var trail = trails.from(kind, number);
        var orders = trail.roots().stream().map(chain -> chain.order().number()).toList();
        var invoices = trail.roots().stream()
                .flatMap(c -> c.invoices().stream())
                .map(i -> i.number())
                .distinct()
                .toList();
        var totals = new HashMap<DocumentRef, ChainFacts.StoredTotals>();
        stored(DocumentKind.ORDER, orders, queries::orderTotals, totals);
        stored(DocumentKind.INVOICE, invoices, queries::invoiceTotals, totals);
        var credits = trail.roots().stream()
                .flatMap(c -> c.credits().stream())
                .map(c -> c.number())
                .distinct()
                .toList();
        stored(DocumentKind.CREDIT_NOTE, credits, queries::creditNoteTotals, totals);
        return ChainProof.run(
                new ChainFacts(
                        trail.roots(),
                        totals,
                        openInvoices.amounts(invoices),
                        trail.payments(),
                        trail.deposits(),
                        trail.entries(),
                        ledger.mirrors(trail.entries().stream()
                                .map(Entry::document)
                                .distinct()
                                .toList()),
                        ledger.written(
                                trail.entries().stream().map(Entry::number).toList()),
                        moves(orders)),
                company.currency());
    }

    private void stored(
            DocumentKind kind,
            List<String> numbers,
            Function<String[], List<ProofQueries.TotalsRow>> asked,
            Map<DocumentRef, ChainFacts.StoredTotals> totals) {
        if (!numbers.isEmpty()) {
            asked.apply(Many.names(numbers))
                    .forEach(row -> totals.put(
                            new DocumentRef(kind, row.number()),
                            new ChainFacts.StoredTotals(
                                    company.money(row.net()), company.money(row.vat()), company.money(row.gross()))));
        }
    }

    private List<ChainFacts.Move> moves(Collection<String> orders) {
        if (orders.isEmpty()) {
            return List.of();
        }
        return queries.moves(Many.names(orders)).stream()
                .map(row -> new ChainFacts.Move(
                        new DocumentRef(DocumentKind.valueOf(row.documentKind()), row.documentNumber()),
                        row.order(),
                        row.stateTo() == null ? OrderState.DRAFT : OrderState.valueOf(row.stateTo())))
                .toList();
    }
}
