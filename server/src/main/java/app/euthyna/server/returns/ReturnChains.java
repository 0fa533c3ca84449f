package app.euthyna.server.returns;

import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.LineRef;
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
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Returns and credit notes, as parts of chains. */
@Component
class ReturnChains implements ChainParts.Returned {

    private final ReturnedQueries queries;
    private final Company company;

    ReturnChains(ReturnedQueries queries, Company company) {
        this.queries = queries;
        this.company = company;
    }

    @Override
    public List<Return> returns(Collection<Long> orders) {
        var ids = queries.returnsOf(Many.ids(orders));
        if (ids.isEmpty()) {
            return List.of();
        }
        var outcomes = grouped(queries.outcomes(Many.ids(ids)), row -> row.partId, this::outcome);
        var parts = grouped(
                queries.parts(Many.ids(ids)).stream()
                        .filter(row -> row.part().quantity.signum() > 0)
                        .toList(),
                row -> row.part().returnLineId,
                row -> part(row, outcomes.getOrDefault(row.part().id, List.of())));
        var lines = grouped(
                queries.lines(Many.ids(ids)),
                row -> row.line().returnId,
                row -> line(row, parts.getOrDefault(row.line().id, List.of())));
        return queries.headers(Many.ids(ids)).stream()
                .map(row -> new Return(
                        row.goods().number,
                        row.customer(),
                        row.goods().authorisedOn,
                        row.goods().reasonCode,
                        row.goods().withdrawn,
                        lines.get(row.goods().id)))
                .toList();
    }

    private Return.Outcome outcome(ReturnOutcomeEntity row) {
        return new Return.Outcome(
                Return.Outcome.Kind.valueOf(row.kind),
                row.decidedOn,
                new Quantity(row.quantity),
                company.money(row.cost),
                row.site,
                row.remark);
    }

    private Return.Part part(ReturnedQueries.PartRow row, List<Return.Outcome> outcomes) {
        var part = row.part();
        return new Return.Part(
                part.partNo,
                part.receivedOn,
                Return.Standing.valueOf(part.standing),
                line(row.invoice(), part.invoiceLineNo),
                new Quantity(part.quantity),
                company.money(part.cost),
                outcomes,
                part.reversed);
    }

    private static Return.Line line(ReturnedQueries.LineRow row, List<Return.Part> parts) {
        var line = row.line();
        return new Return.Line(
                line.lineNo,
                new LineRef(row.order(), line.orderLineNo),
                new LineRef(row.dispatch(), line.dispatchLineNo),
                line(row.invoice(), line.invoiceLineNo),
                row.item(),
                row.site(),
                new Quantity(line.authorised),
                parts);
    }

    @Override
    public List<CreditNote> creditNotes(Collection<Long> invoices) {
        var notes = queries.creditNotes(Many.ids(invoices));
        if (notes.isEmpty()) {
            return List.of();
        }
        var ids = notes.stream().map(row -> row.note().id).toList();
        var vat = queries.bands(Many.ids(ids));
        var bands = grouped(vat, band -> band.creditNoteId, this::band);
        var discounted = grouped(
                vat.stream()
                        .filter(band -> band.discountNet.signum() != 0 || band.discountTax.signum() != 0)
                        .toList(),
                band -> band.creditNoteId,
                this::discounted);
        var lines = grouped(queries.credited(Many.ids(ids)), row -> row.line().creditNoteId, this::line);
        return notes.stream()
                .map(row -> new CreditNote(
                        row.note().number,
                        row.customer(),
                        row.invoice(),
                        row.note().creditedOn,
                        row.note().reason,
                        row.note().reversedOn != null,
                        lines.get(row.note().id),
                        new Totals(
                                company.money(row.note().net),
                                company.money(row.note().vat),
                                company.money(row.note().gross),
                                bands.get(row.note().id)),
                        discounted.getOrDefault(row.note().id, List.of())))
                .toList();
    }

    private Totals.Band band(CreditNoteVatEntity band) {
        return new Totals.Band(
                new Vat(band.vatCategory, band.vatRate), company.money(band.taxable), company.money(band.tax));
    }

    private Totals.Band discounted(CreditNoteVatEntity band) {
        return new Totals.Band(
                new Vat(band.vatCategory, band.vatRate),
                company.money(band.discountNet),
                company.money(band.discountTax));
    }

    private CreditNote.Line line(ReturnedQueries.CreditedRow row) {
        var line = row.line();
        return new CreditNote.Line(
                line.lineNo,
                line.invoiceLineNo,
                new LineRef(row.order(), line.orderLineNo),
                line(row.goodsReturn(), line.returnLineNo),
                line.itemCode,
                line.description,
                new Quantity(line.quantity),
                company.money(line.net),
                company.money(line.fee),
                line.feePercent,
                new Quantity(line.ahead),
                company.money(line.deferred),
                new Vat(line.vatCategory, line.vatRate));
    }

    @Override
    public Map<LineRef, List<Invoice.TakenBack>> takenBack(Collection<Long> invoices) {
        return grouped(
                queries.takenBack(Many.ids(invoices)),
                row -> new LineRef(row.invoice(), row.invoiceLineNo()),
                row -> new Invoice.TakenBack(new Quantity(row.ahead()), company.money(row.deferred())));
    }

    private static Optional<LineRef> line(String number, Integer line) {
        return number == null ? Optional.empty() : Optional.of(new LineRef(number, line));
    }

    private static <R, K, V> Map<K, List<V>> grouped(List<R> rows, Function<R, K> key, Function<R, V> value) {
        return rows.stream().collect(Collectors.groupingBy(key, Collectors.mapping(value, Collectors.toList())));
    }
}
