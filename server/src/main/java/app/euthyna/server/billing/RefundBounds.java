package app.euthyna.server.billing;

import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toSet;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.RoleLimits;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.time.LocalDate;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Gathers what bounds refunds to a customer: what was refunded of late, by the day on which that was written, and who
 * recorded the money that it began as.
 */
@Component
public class RefundBounds {

    private final RefundQueries queries;
    private final Company company;
    private final CompanyRulesStore rules;

    RefundBounds(RefundQueries queries, Company company, CompanyRulesStore rules) {
        this.queries = queries;
        this.company = company;
        this.rules = rules;
    }

    /** What bounds refunds of any of the sources; a fixed number of queries but for money that was moved often. */
    public RefundRules.Bounds of(String customer, Collection<DocumentRef> sources) {
        var since = company.today().minusDays(RefundRules.DAYS_TOGETHER);
        var limits = rules.inForce().limits().refund();
        return new RefundRules.Bounds(
                new RoleLimits(company.amounts(limits)),
                limits.isEmpty() ? Map.of() : byPerson(customer, since),
                limits.isEmpty() ? Map.of() : ofDocument(sources, since),
                recordedBy(sources));
    }

    private Map<String, Money> byPerson(String customer, LocalDate since) {
        var sums = new HashMap<String, Money>();
        queries.byPerson(customer, since).forEach(row -> sums.put(row.byUser(), company.money(row.amount())));
        return sums;
    }

    private Map<DocumentRef, Money> ofDocument(Collection<DocumentRef> sources, LocalDate since) {
        var sums = new HashMap<DocumentRef, Money>();
        if (!sources.isEmpty()) {
            queries.ofDocument(Many.numbers(sources), since)
                    .forEach(row -> sums.put(
                            new DocumentRef(row.sourceKind(), row.sourceNumber()), company.money(row.amount())));
        }
        return sums;
    }

    private Map<DocumentRef, Set<String>> recordedBy(Collection<DocumentRef> sources) {
        var cameFrom = cameFrom(sources);
        var received = received(
                Stream.concat(sources.stream(), cameFrom.values().stream().flatMap(Set::stream))
                        .collect(toSet()));
        var names = new HashMap<DocumentRef, Set<String>>();
        sources.forEach(source -> names.put(
                source,
                origins(source, cameFrom).stream()
                        .flatMap(origin -> received.getOrDefault(origin, Set.of()).stream())
                        .collect(toSet())));
        return names;
    }

    /** A document and all that its money was before. */
    private static Set<DocumentRef> origins(DocumentRef source, Map<DocumentRef, Set<DocumentRef>> cameFrom) {
        var found = new HashSet<DocumentRef>(Set.of(source));
        for (var at = List.copyOf(found); !at.isEmpty(); ) {
            at = at.stream()
                    .flatMap(document -> cameFrom.getOrDefault(document, Set.of()).stream())
                    .filter(found::add)
                    .toList();
        }
        return found;
    }

    /**
     * What money was before: a deposit that was moved another, what a credit note set free what had paid its invoice.
     */
    private Map<DocumentRef, Set<DocumentRef>> cameFrom(Collection<DocumentRef> sources) {
        var from = new HashMap<DocumentRef, Set<DocumentRef>>();
        var asked = new HashSet<DocumentRef>(sources);
        for (var at = List.copyOf(asked); !at.isEmpty(); ) {
            var found = new HashMap<DocumentRef, Set<DocumentRef>>();
            var credits = numbers(at, DocumentKind.CREDIT_NOTE);
            if (credits.length > 0) {
                queries.paidInvoiceOf(credits)
                        .forEach(row -> add(
                                found,
                                new DocumentRef(DocumentKind.CREDIT_NOTE, row.number()),
                                new DocumentRef(row.kind(), row.origin())));
                addDeposits(found, DocumentKind.CREDIT_NOTE, queries.depositedForInvoiceOf(credits));
            }
            var deposits = numbers(at, DocumentKind.DEPOSIT);
            if (deposits.length > 0) {
                addDeposits(found, DocumentKind.DEPOSIT, queries.movedFrom(deposits));
            }
            from.putAll(found);
            at = found.values().stream().flatMap(Set::stream).filter(asked::add).toList();
        }
        return from;
    }

    private static void addDeposits(
            Map<DocumentRef, Set<DocumentRef>> found, DocumentKind kind, List<RefundQueries.DepositOriginRow> rows) {
        rows.forEach(row ->
                add(found, new DocumentRef(kind, row.number()), new DocumentRef(DocumentKind.DEPOSIT, row.deposit())));
    }

    private static void add(Map<DocumentRef, Set<DocumentRef>> found, DocumentRef document, DocumentRef origin) {
        found.computeIfAbsent(document, one -> new HashSet<>()).add(origin);
    }

    private static String[] numbers(List<DocumentRef> of, DocumentKind kind) {
        return Many.numbers(
                of.stream().filter(document -> document.kind() == kind).toList());
    }

    private Map<DocumentRef, Set<String>> received(Set<DocumentRef> documents) {
        return documents.isEmpty()
                ? Map.of()
                : queries.received(Many.numbers(documents)).stream()
                        .collect(groupingBy(
                                row -> new DocumentRef(DocumentKind.valueOf(row.documentKind()), row.documentNumber()),
                                mapping(RefundQueries.ReceivedRow::byUser, toSet())));
    }
}
