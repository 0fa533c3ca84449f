package app.euthyna.server.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** The money behind documents that a plan undoes. */
@Component
class MoneyBehind {

    private final UnwindQueries queries;
    private final OpenInvoices openInvoices;
    private final Company company;

    MoneyBehind(UnwindQueries queries, OpenInvoices openInvoices, Company company) {
        this.queries = queries;
        this.openInvoices = openInvoices;
        this.company = company;
    }

    /** What is still open of invoices. */
    Map<String, Money> open(List<String> invoices) {
        return openInvoices.amounts(invoices);
    }

    /** Deposits that were applied to invoices. */
    List<UnwindContext.Applied> applied(List<String> invoices) {
        return invoices.isEmpty()
                ? List.of()
                : queries.applied(Many.names(invoices)).stream()
                        .map(row -> new UnwindContext.Applied(
                                row.deposit(), row.order(), row.customer(), row.invoice(), company.money(row.amount())))
                        .toList();
    }

    /** Payments and customer credit that settle the invoices, and what is to be refunded. */
    List<RefundRules.Source> sources(
            List<String> invoices, DocumentRef subject, List<String> credits, List<String> deposits) {
        var numbers = new LinkedHashSet<String>(credits);
        numbers.addAll(deposits);
        numbers.add(subject.number());
        if (!invoices.isEmpty()) {
            numbers.addAll(queries.paymentsFor(Many.names(invoices)));
        }
        var settled = new HashMap<String, Map<String, Money>>();
        queries.settled(Many.names(numbers))
                .forEach(row -> settled.computeIfAbsent(row.number(), p -> new LinkedHashMap<>())
                        .put(row.invoice(), company.money(row.amount())));
        return new ArrayList<>(queries.sources(Many.names(numbers)).stream()
                .map(row -> new RefundRules.Source(
                        new DocumentRef(row.kind(), row.number()),
                        row.customer(),
                        company.money(row.amount()),
                        company.money(row.leftAmount()),
                        company.money(row.refunded()),
                        row.reversed(),
                        settled.getOrDefault(row.number(), Map.of())))
                .toList());
    }
}
