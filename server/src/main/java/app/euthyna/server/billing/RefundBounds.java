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
import java.time.Clock;
import java.time.LocalDate;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Gathers what bounds refunds to a customer: what was refunded of late, by the day on which that was written, and who
 * recorded the money that it began as.
 */
@Component
public class RefundBounds {

    private final JdbcClient jdbc;
    private final Company company;
    private final CompanyRulesStore rules;
    private final Clock clock;

    RefundBounds(JdbcClient jdbc, Company company, CompanyRulesStore rules, Clock clock) {
        this.jdbc = jdbc;
        this.company = company;
        this.rules = rules;
        this.clock = clock;
    }

    /** What bounds refunds of any of the sources; a fixed number of queries but for money that was moved often. */
    public RefundRules.Bounds of(String customer, Collection<DocumentRef> sources) {
        var since = LocalDate.now(clock).minusDays(RefundRules.DAYS_TOGETHER);
        var limits = rules.inForce().limits().refund();
        return new RefundRules.Bounds(
                new RoleLimits(company.amounts(limits)),
                limits.isEmpty() ? Map.of() : byPerson(customer, since),
                limits.isEmpty() ? Map.of() : ofDocument(sources, since),
                recordedBy(sources));
    }

    private Map<String, Money> byPerson(String customer, LocalDate since) {
        var sums = new HashMap<String, Money>();
        jdbc.sql("""
            select h.by_user, sum(r.amount) from refund r join customer c on c.id = r.customer_id
            join history h on h.document_kind = 'REFUND' and h.document_number = r.number and h.event = 'refunded'
            where c.code = ? and r.reversed_on is null and h.written_on >= ? group by h.by_user\
            """)
                .params(customer, since)
                .query((r, n) -> sums.put(r.getString(1), company.money(r.getBigDecimal(2))))
                .list();
        return sums;
    }

    private Map<DocumentRef, Money> ofDocument(Collection<DocumentRef> sources, LocalDate since) {
        var sums = new HashMap<DocumentRef, Money>();
        if (!sources.isEmpty()) {
            jdbc.sql("""
                select r.source_kind, r.source_number, sum(r.amount) from refund r
                join history h on h.document_kind = 'REFUND' and h.document_number = r.number and h.event = 'refunded'
                where r.source_number in (:numbers) and r.source_kind in (:kinds) and r.reversed_on is null
                  and h.written_on >= :since
                group by r.source_kind, r.source_number\
                """)
                    .param("numbers", numbers(sources))
                    .param("kinds", kinds(sources))
                    .param("since", since)
                    .query((r, n) -> sums.put(
                            new DocumentRef(DocumentKind.valueOf(r.getString(1)), r.getString(2)),
                            company.money(r.getBigDecimal(3))))
                    .list();
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
            of(at, DocumentKind.CREDIT_NOTE, """
                select k.number, p.kind, p.number from credit_note k join allocation a on a.invoice_id = k.invoice_id
                join payment p on p.id = a.payment_id where k.number in (:numbers) and p.number <> k.number
                union select k.number, 'DEPOSIT', d.number from credit_note k
                join deposit_use u on u.invoice_id = k.invoice_id join deposit d on d.id = u.deposit_id
                where k.number in (:numbers)\
                """, found);
            of(at, DocumentKind.DEPOSIT, """
                select d.number, 'DEPOSIT', m.number from deposit d join deposit m on m.id = d.moved_from
                where d.number in (:numbers)\
                """, found);
            from.putAll(found);
            at = found.values().stream().flatMap(Set::stream).filter(asked::add).toList();
        }
        return from;
    }

    private void of(List<DocumentRef> at, DocumentKind kind, String sql, Map<DocumentRef, Set<DocumentRef>> found) {
        var these = at.stream().filter(document -> document.kind() == kind).toList();
        if (!these.isEmpty()) {
            jdbc.sql(sql)
                    .param("numbers", numbers(these))
                    .query((r, n) -> found.computeIfAbsent(
                                    new DocumentRef(kind, r.getString(1)), document -> new HashSet<>())
                            .add(new DocumentRef(DocumentKind.valueOf(r.getString(2)), r.getString(3))))
                    .list();
        }
    }

    private Map<DocumentRef, Set<String>> received(Set<DocumentRef> documents) {
        record Received(DocumentRef document, String by) {}
        return documents.isEmpty()
                ? Map.of()
                : jdbc
                        .sql("""
                            select distinct document_kind, document_number, by_user from history
                            where document_kind in (:kinds) and document_number in (:numbers) and event = 'received'\
                            """)
                        .param("kinds", kinds(documents))
                        .param("numbers", numbers(documents))
                        .query((r, n) -> new Received(
                                new DocumentRef(DocumentKind.valueOf(r.getString(1)), r.getString(2)), r.getString(3)))
                        .list()
                        .stream()
                        .collect(groupingBy(Received::document, mapping(Received::by, toSet())));
    }

    private static List<String> kinds(Collection<DocumentRef> of) {
        return of.stream().map(document -> document.kind().name()).distinct().toList();
    }

    private static List<String> numbers(Collection<DocumentRef> of) {
        return of.stream().map(DocumentRef::number).distinct().toList();
    }
}
