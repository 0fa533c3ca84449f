package app.euthyna.server.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.server.billing.OpenInvoices;
import app.euthyna.server.billing.RefundBounds;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.Accounts;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.RefusedException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Gathers what a plan looks at, in a fixed number of queries. */
@Component
class UnwindContexts {

    private final UnwindQueries queries;
    private final ChainReader chains;
    private final Company company;
    private final Accounts accounts;
    private final RefundBounds bounds;
    private final DocumentOrders documentOrders;
    private final OpenInvoices openInvoices;

    UnwindContexts(
            UnwindQueries queries,
            ChainReader chains,
            Company company,
            Accounts accounts,
            RefundBounds bounds,
            DocumentOrders documentOrders,
            OpenInvoices openInvoices) {
        this.openInvoices = openInvoices;
        this.documentOrders = documentOrders;
        this.queries = queries;
        this.chains = chains;
        this.company = company;
        this.accounts = accounts;
        this.bounds = bounds;
    }

    /** The orders of a document: those of its lines, or of what its money is for. Money on account has none. */
    List<String> orders(DocumentRef subject) {
        return switch (subject.kind()) {
            case ORDER, DISPATCH, INVOICE, RETURN, DEPOSIT -> documentOrders.of(subject.kind(), subject.number());
            default -> {
                if (customerOfMoney(subject).isEmpty()) {
                    throw new RefusedException(new CommonRefusal.NotFound(
                            subject.kind().word().toLowerCase(Locale.ROOT), subject.number()));
                }
                yield List.of();
            }
        };
    }

    private Optional<String> customerOfMoney(DocumentRef subject) {
        return queries.customerOfMoney(subject.number(), subject.kind());
    }

    String customer(DocumentRef subject, List<String> orders) {
        return orders.isEmpty()
                ? customerOfMoney(subject).orElseThrow()
                : chains.chain(orders.get(0)).order().customer();
    }

    UnwindContext of(DocumentRef subject, List<String> orders) {
        var found = List.copyOf(chains.chains(orders).values());
        var invoices = found.stream()
                .flatMap(chain -> chain.invoices().stream())
                .map(Invoice::number)
                .distinct()
                .toList();
        var credits = found.stream()
                .flatMap(chain -> chain.credits().stream())
                .map(credit -> credit.number())
                .distinct()
                .toList();
        var deposits = found.stream()
                .flatMap(chain -> chain.deposits().stream())
                .map(deposit -> deposit.number())
                .toList();
        var applied = applied(invoices);
        var sources = sources(invoices, subject, credits, deposits);
        return new UnwindContext(
                found,
                openInvoices.amounts(invoices),
                applied,
                sources,
                accounts.closedThrough(),
                bounds.of(
                        found.isEmpty()
                                ? sources.get(0).customer()
                                : found.get(0).order().customer(),
                        Stream.of(
                                        sources.stream().map(RefundRules.Source::document),
                                        deposits.stream().map(d -> new DocumentRef(DocumentKind.DEPOSIT, d)),
                                        applied.stream().map(a -> new DocumentRef(DocumentKind.DEPOSIT, a.deposit())))
                                .flatMap(documents -> documents)
                                .collect(Collectors.toSet())));
    }

    private List<UnwindContext.Applied> applied(List<String> invoices) {
        return invoices.isEmpty()
                ? List.of()
                : queries.applied(Many.names(invoices)).stream()
                        .map(row -> new UnwindContext.Applied(
                                row.deposit(), row.order(), row.customer(), row.invoice(), company.money(row.amount())))
                        .toList();
    }

    /** Payments and customer credit that settle the invoices, and what is to be refunded. */
    private List<RefundRules.Source> sources(
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
