package app.euthyna.server.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.billing.Reductions;
import app.euthyna.server.billing.RefundBounds;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** The money behind documents that a plan undoes. */
@Component
class MoneyBehind {

    private final UnwindQueries queries;
    private final OpenInvoices openInvoices;
    private final Company company;
    private final RefundBounds bounds;
    private final Reductions reductions;

    MoneyBehind(
            UnwindQueries queries,
            OpenInvoices openInvoices,
            Company company,
            RefundBounds bounds,
            Reductions reductions) {
        this.reductions = reductions;
        this.bounds = bounds;
        this.queries = queries;
        this.openInvoices = openInvoices;
        this.company = company;
    }

    /** What bounds refunds to a customer out of documents. */
    RefundRules.Bounds bounds(String customer, Set<DocumentRef> documents) {
        return bounds.of(customer, documents);
    }

    /** What is known of a deposit or refund that is taken back. */
    UnwindContext.Taken taken(Intent intent) {
        var number = intent.subject().number();
        if (!(intent instanceof Intent.TakeBack)) {
            return UnwindContext.Taken.NOTHING;
        }
        return switch (intent.subject().kind()) {
            case DEPOSIT ->
                UnwindContext.Taken.of(new UnwindContext.DepositTaken(
                        cameFrom(number), company.money(queries.refundedOfDeposit(number)), queries.movedTo(number)));
            case REFUND -> UnwindContext.Taken.of(refund(number));
            default -> UnwindContext.Taken.NOTHING;
        };
    }

    /** The deposit that a deposit was moved from. */
    Optional<Deposit.Origin> cameFrom(String deposit) {
        return queries.cameFrom(deposit).map(row -> new Deposit.Origin(row.deposit(), row.order()));
    }

    private UnwindContext.RefundTaken refund(String number) {
        var row = queries.refund(number).orElseThrow();
        return new UnwindContext.RefundTaken(
                new RefundRules.Refund(
                        number,
                        row.customer(),
                        new DocumentRef(row.sourceKind(), row.sourceNumber()),
                        row.order(),
                        company.money(row.amount()),
                        row.reversedOn() != null),
                switch (row.payout() == null ? "" : row.payout()) {
                    case "PAID" -> UnwindContext.MoneyOut.PAID;
                    case "SENDING", "UNANSWERED" -> UnwindContext.MoneyOut.ON_ITS_WAY;
                    default -> UnwindContext.MoneyOut.NOT_SENT;
                });
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
        var discounts = reductions.discounts(numbers);
        return new ArrayList<>(queries.sources(Many.names(numbers)).stream()
                .map(row -> new RefundRules.Source(
                        new DocumentRef(row.kind(), row.number()),
                        row.customer(),
                        company.money(row.amount()),
                        company.money(row.leftAmount()),
                        company.money(row.refunded()),
                        row.reversed(),
                        settled.getOrDefault(row.number(), Map.of()),
                        discounts.getOrDefault(row.number(), List.of())))
                .toList());
    }
}
