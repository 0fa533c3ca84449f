package app.euthyna.server.proof;

import app.euthyna.core.ledger.Entry;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.proof.ChainFacts;
import app.euthyna.core.proof.ChainProof;
import app.euthyna.core.proof.Statement;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.Company;
import app.euthyna.server.trail.TrailReader;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Gathers what is stored of a chain and has the core prove it. */
@Component
class ChainProver {

    private final TrailReader trails;
    private final LedgerReader ledger;
    private final Company company;
    private final JdbcClient jdbc;

    ChainProver(TrailReader trails, LedgerReader ledger, Company company, JdbcClient jdbc) {
        this.ledger = ledger;
        this.trails = trails;
        this.company = company;
        this.jdbc = jdbc;
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
        stored(
                DocumentKind.ORDER,
                "select number, net, vat, gross from sales_order where number in (:numbers)",
                orders,
                totals);
        stored(
                DocumentKind.INVOICE,
                "select number, net, vat, gross from invoice where number in (:numbers)",
                invoices,
                totals);
        var credits = trail.roots().stream()
                .flatMap(c -> c.credits().stream())
                .map(c -> c.number())
                .distinct()
                .toList();
        stored(
                DocumentKind.CREDIT_NOTE,
                "select number, net, vat, gross from credit_note where number in (:numbers)",
                credits,
                totals);
        return ChainProof.run(
                new ChainFacts(
                        trail.roots(),
                        totals,
                        open(invoices),
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
            String sql,
            Collection<String> numbers,
            Map<DocumentRef, ChainFacts.StoredTotals> totals) {
        if (!numbers.isEmpty()) {
            jdbc.sql(sql)
                    .param("numbers", numbers)
                    .query((r, n) -> totals.put(
                            new DocumentRef(kind, r.getString(1)),
                            new ChainFacts.StoredTotals(
                                    company.money(r.getBigDecimal(2)),
                                    company.money(r.getBigDecimal(3)),
                                    company.money(r.getBigDecimal(4)))))
                    .list();
        }
    }

    private Map<String, Money> open(Collection<String> invoices) {
        var open = new HashMap<String, Money>();
        if (!invoices.isEmpty()) {
            jdbc.sql("select number, open_amount from invoice where number in (:numbers)")
                    .param("numbers", invoices)
                    .query((r, n) -> open.put(r.getString(1), company.money(r.getBigDecimal(2))))
                    .list();
        }
        return open;
    }

    private List<ChainFacts.Move> moves(Collection<String> orders) {
        if (orders.isEmpty()) {
            return List.of();
        }
        return jdbc.sql("""
            select h.document_kind, h.document_number, o.number, (select s.state_to from history s where s.moment = (
                select max(m.moment) from history m where m.order_id = h.order_id and m.moment < h.moment
                    and m.state_to is not null))
            from history h join sales_order o on o.id = h.order_id
            where o.number in (:orders) and h.event in ('departed', 'invoiced') order by h.moment\
            """)
                .param("orders", orders)
                .query((r, n) -> new ChainFacts.Move(
                        new DocumentRef(DocumentKind.valueOf(r.getString(1)), r.getString(2)),
                        r.getString(3),
                        r.getString(4) == null ? OrderState.DRAFT : OrderState.valueOf(r.getString(4))))
                .list();
    }
}
