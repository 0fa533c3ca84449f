package app.euthyna.server.billing;

import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toList;
import static java.util.stream.Collectors.toSet;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.springframework.stereotype.Component;

/** What of invoices is settled without money, as the core sees it; nothing is asked where there is none. */
@Component
public class Reductions {

    private final ReductionQueries queries;
    private final Company company;

    Reductions(ReductionQueries queries, Company company) {
        this.queries = queries;
        this.company = company;
    }

    /** What stands of invoices, by their number, oldest first. */
    Map<String, List<Reduction>> standing(Collection<Long> invoices) {
        return invoices.isEmpty()
                ? Map.of()
                : known(queries.standing(Many.ids(invoices)), Function.identity()).stream()
                        .collect(groupingBy(Reduction::invoice));
    }

    /** Discounts that were taken with money, by its number. */
    public Map<String, List<RefundRules.Discount>> discounts(Collection<String> payments) {
        if (payments.isEmpty()) {
            return Map.of();
        }
        var rows = queries.discountsOf(Many.names(payments));
        if (rows.isEmpty()) {
            return Map.of();
        }
        var invoices =
                Many.ids(rows.stream().map(row -> row.reduction().invoiceId).toList());
        var credited = queries.lessDiscount(invoices).stream()
                .collect(groupingBy(
                        ReductionQueries.CreditedRow::invoiceId,
                        mapping(ReductionQueries.CreditedRow::credit, toList())));
        var ids = new HashMap<String, Long>();
        rows.forEach(row -> ids.put(row.invoice(), row.reduction().invoiceId));
        return known(
                        rows,
                        one -> new RefundRules.Discount(one, credited.getOrDefault(ids.get(one.invoice()), List.of())))
                .stream()
                .collect(groupingBy(one -> one.reduction().document().number()));
    }

    private <T> List<T> known(List<ReductionQueries.ReducedRow> rows, Function<Reduction, T> as) {
        if (rows.isEmpty()) {
            return List.of();
        }
        var shares = queries
                .shares(Many.ids(rows.stream().map(row -> row.reduction().id).toList()))
                .stream()
                .collect(groupingBy(share -> share.reductionId, mapping(this::share, toList())));
        var orders =
                queries
                        .orders(Many.ids(rows.stream()
                                .map(row -> row.reduction().invoiceId)
                                .distinct()
                                .toList()))
                        .stream()
                        .collect(groupingBy(
                                ReductionQueries.OrderRow::invoiceId,
                                mapping(ReductionQueries.OrderRow::order, toSet())));
        return rows.stream()
                .map(row -> as.apply(new Reduction(
                        row.reduction().kind,
                        new DocumentRef(row.kind(), row.number()),
                        row.customer(),
                        row.invoice(),
                        orders.get(row.reduction().invoiceId),
                        row.reduction().reducedOn,
                        company.money(row.reduction().amount),
                        row.reduction().reason,
                        shares.getOrDefault(row.reduction().id, List.of()))))
                .toList();
    }

    private Reduction.Share share(ReductionVatEntity row) {
        return new Reduction.Share(
                new Vat(row.vatCategory, row.vatRate),
                company.money(row.base),
                company.money(row.net),
                company.money(row.tax));
    }
}
