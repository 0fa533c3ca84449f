package app.euthyna.server.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.server.billing.RefundBounds;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.Accounts;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DocumentOrders;
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
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Gathers what a plan looks at, in a fixed number of queries. */
@Component
class UnwindContexts {

    private final JdbcClient jdbc;
    private final ChainReader chains;
    private final Company company;
    private final Accounts accounts;
    private final RefundBounds bounds;
    private final DocumentOrders documentOrders;

    UnwindContexts(
            JdbcClient jdbc,
            ChainReader chains,
            Company company,
            Accounts accounts,
            RefundBounds bounds,
            DocumentOrders documentOrders) {
        this.documentOrders = documentOrders;
        this.jdbc = jdbc;
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
        return jdbc.sql("select c.code from payment p join customer c on c.id = p.customer_id where p.number = ? and"
                        + " p.kind = ?")
                .params(subject.number(), subject.kind().name())
                .query(String.class)
                .optional();
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
                open(invoices),
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

    private Map<String, Money> open(List<String> invoices) {
        var open = new HashMap<String, Money>();
        if (!invoices.isEmpty()) {
            jdbc.sql("select number, open_amount from invoice where number in (:numbers)")
                    .param("numbers", invoices)
                    .query((r, n) -> open.put(r.getString(1), company.money(r.getBigDecimal(2))))
                    .list();
        }
        return open;
    }

    private List<UnwindContext.Applied> applied(List<String> invoices) {
        return invoices.isEmpty()
                ? List.of()
                : jdbc.sql("""
                    select d.number, o.number, c.code, i.number, sum(u.amount) from deposit_use u
                    join deposit d on d.id = u.deposit_id join sales_order o on o.id = d.order_id
                    join customer c on c.id = d.customer_id join invoice i on i.id = u.invoice_id
                    where i.number in (:numbers) and u.kind = 'APPLIED'
                    group by d.id, d.number, o.number, c.code, i.number having sum(u.amount) > 0
                    order by d.id, i.number\
                    """)
                        .param("numbers", invoices)
                        .query((r, n) -> new UnwindContext.Applied(
                                r.getString(1),
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                company.money(r.getBigDecimal(5))))
                        .list();
    }

    /** Payments and customer credit that settle the invoices, and what is to be refunded. */
    private List<RefundRules.Source> sources(
            List<String> invoices, DocumentRef subject, List<String> credits, List<String> deposits) {
        var numbers = new LinkedHashSet<String>(credits);
        numbers.addAll(deposits);
        numbers.add(subject.number());
        if (!invoices.isEmpty()) {
            numbers.addAll(
                    jdbc.sql("select distinct p.number from allocation a join payment p on p.id = a.payment_id join"
                                    + " invoice i on i.id = a.invoice_id where i.number in (:numbers)")
                            .param("numbers", invoices)
                            .query(String.class)
                            .list());
        }
        var settled = new HashMap<String, Map<String, Money>>();
        jdbc.sql("""
            select p.number, i.number, sum(a.amount) from payment p join allocation a on a.payment_id = p.id
            join invoice i on i.id = a.invoice_id
            where p.number in (:numbers) group by p.id, p.number, i.id, i.number order by p.id, i.id\
            """)
                .param("numbers", numbers)
                .query((r, n) -> settled.computeIfAbsent(r.getString(1), p -> new LinkedHashMap<>())
                        .put(r.getString(2), company.money(r.getBigDecimal(3))))
                .list();
        return new ArrayList<>(jdbc.sql("""
            select p.number, p.kind, c.code, p.amount, p.left_amount, p.refunded, p.reversed from payment p
            join customer c on c.id = p.customer_id
            where p.number in (:numbers) order by p.id\
            """)
                .param("numbers", numbers)
                .query((r, n) -> new RefundRules.Source(
                        new DocumentRef(DocumentKind.valueOf(r.getString(2)), r.getString(1)),
                        r.getString(3),
                        company.money(r.getBigDecimal(4)),
                        company.money(r.getBigDecimal(5)),
                        company.money(r.getBigDecimal(6)),
                        r.getBoolean(7),
                        settled.getOrDefault(r.getString(1), Map.of())))
                .list());
    }
}
