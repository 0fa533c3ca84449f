package app.euthyna.server.billing;

import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.flow.ChainParts;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Invoices and deposits, as parts of chains. */
@Component
class BillingChains implements ChainParts.Billed {

    private final BilledQueries queries;
    private final Reductions reductions;
    private final Company company;

    BillingChains(BilledQueries queries, Reductions reductions, Company company) {
        this.queries = queries;
        this.reductions = reductions;
        this.company = company;
    }

    @Override
    public List<Long> invoicesOf(Collection<Long> orders) {
        return queries.invoicesOf(Many.ids(orders));
    }

    @Override
    public List<Invoice> invoices(Collection<Long> invoices, Map<LineRef, List<Invoice.TakenBack>> takenBack) {
        var sources = queries.sources(Many.ids(invoices)).stream()
                .collect(Collectors.groupingBy(
                        row -> row.source().invoiceLineId, Collectors.mapping(this::source, Collectors.toList())));
        var rows = queries.billed(Many.ids(invoices)).stream()
                .collect(Collectors.groupingBy(row -> row.invoice().id, TreeMap::new, Collectors.toList()));
        var reduced = reductions.standing(rows.values().stream()
                .map(of -> of.get(0).invoice())
                .filter(invoice -> invoice.reduced)
                .map(invoice -> invoice.id)
                .toList());
        return rows.values().stream()
                .map(of -> invoice(of, sources, takenBack, reduced))
                .toList();
    }

    private Invoice.Source source(BilledQueries.SourceRow row) {
        var source = row.source();
        return new Invoice.Source(
                new LineRef(row.dispatch(), source.dispatchLineNo),
                new Quantity(source.quantity),
                company.money(source.cost),
                source.ahead,
                company.money(source.earned));
    }

    private Invoice invoice(
            List<BilledQueries.BilledRow> rows,
            Map<Long, List<Invoice.Source>> sources,
            Map<LineRef, List<Invoice.TakenBack>> takenBack,
            Map<String, List<Reduction>> reduced) {
        var invoice = rows.get(0).invoice();
        var lines = rows.stream()
                .map(row -> line(
                        row,
                        sources.getOrDefault(row.line().id, List.of()),
                        takenBack.getOrDefault(new LineRef(invoice.number, row.line().lineNo), List.of())))
                .toList();
        var totals = Totals.of(
                lines.stream().map(l -> new Totals.Part(l.net(), l.vat())).toList(), company.currency());
        return new Invoice(
                invoice.number,
                rows.get(0).customer(),
                invoice.invoicedOn,
                invoice.dueOn,
                invoice.text,
                invoice.reversedOn != null,
                lines,
                totals,
                Optional.ofNullable(invoice.earlyPercent)
                        .map(percent -> new Invoice.EarlyPayment(percent, invoice.earlyUntil)),
                reduced.getOrDefault(invoice.number, List.of()));
    }

    private Invoice.Line line(
            BilledQueries.BilledRow row, List<Invoice.Source> sources, List<Invoice.TakenBack> takenBack) {
        var line = row.line();
        return new Invoice.Line(
                line.lineNo,
                new LineRef(row.order(), line.orderLineNo),
                line.kind,
                line.itemCode,
                line.description,
                new Quantity(line.quantity),
                new Price(line.unitPrice, line.discountPercent),
                company.money(line.net),
                company.money(line.deferred),
                new Vat(line.vatCategory, line.vatRate),
                sources,
                takenBack);
    }

    @Override
    public Map<Long, List<Deposit>> deposits(Collection<Long> orders) {
        return queries.deposits(Many.ids(orders)).stream()
                .collect(Collectors.groupingBy(
                        row -> row.deposit().orderId, Collectors.mapping(this::deposit, Collectors.toList())));
    }

    private Deposit deposit(BilledQueries.DepositedRow row) {
        var deposit = row.deposit();
        return new Deposit(
                deposit.number,
                row.order(),
                deposit.receivedOn,
                company.money(deposit.amount),
                company.money(deposit.leftAmount),
                deposit.reversedOn != null);
    }
}
