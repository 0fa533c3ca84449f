package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What invoices have open, and the credit of customers that could settle it. */
@Component
public class OpenInvoices {

    /** What an invoice {@code n} had open on {@code :day}: all before anything was set against it. */
    static final String STILL = """
            case when n.touchedOn is null or n.touchedOn > :day then n.gross
                else case when n.reversedOn <= :day then 0 else n.gross end
                - coalesce((select sum(a.amount) from AllocationEntity a where a.invoiceId = n.id
                and a.allocatedOn <= :day), 0)
                - coalesce((select sum(u.amount) from DepositUseEntity u where u.invoiceId = n.id
                and u.usedOn <= :day), 0) end
            """;

    /** The same: of {@code :today} what it carries. */
    static final String KEPT = """
            case when cast(:day as LocalDate) = cast(:today as LocalDate) then n.openAmount
                else %s end""".formatted(STILL);

    /** Of which invoices {@code n} something may have been open on {@code :day}. */
    static final String OPEN_THEN = "n.openUntil > :day and n.invoicedOn <= :day";

    /** These, with what was. */
    static final String ON_DAY = """
            (select n.id as id, n.number as number, n.customerId as customerId, n.dueOn as dueOn,
            """ + STILL + """
            as still
            from InvoiceEntity n
            where\s""" + OPEN_THEN + ") i\n";

    /** The same of today: what they carry. */
    static final String TODAY = """
            (select n.id as id, n.number as number, n.customerId as customerId, n.dueOn as dueOn,
                n.openAmount as still
            from InvoiceEntity n where n.openAmount >= 0.0001bd) i
            """;

    /** What of an invoice {@code i} with {@code still} open was disputed on {@code :day}. */
    static final String DISPUTED = """
            coalesce((select least(coalesce(d.amount, i.still), i.still) from DisputeEntity d where d.invoiceId = i.id
                and d.openedOn <= :day and (d.endedOn is null or d.endedOn > :day)), 0)
            """;

    private final InvoiceQueries queries;
    private final Company company;

    OpenInvoices(InvoiceQueries queries, Company company) {
        this.queries = queries;
        this.company = company;
    }

    /** Those of these numbers that there are, also where nothing is open. */
    List<OpenInvoice> numbered(List<String> numbers) {
        return numbers.isEmpty() ? List.of() : open(queries.numbered(Many.names(numbers)));
    }

    /** What those of these numbers that there are have open, by number. */
    public Map<String, Money> amounts(Collection<String> numbers) {
        return numbers.isEmpty()
                ? Map.of()
                : queries.openAmounts(Many.names(numbers)).stream()
                        .collect(Collectors.toMap(
                                InvoiceQueries.AmountRow::number, row -> company.money(row.openAmount())));
    }

    /** Why an invoice can't be disputed now: it is already. */
    public Optional<Refusal> disputed(String number) {
        return queries.disputed(number) ? Optional.of(new Disputing.DisputedAlready(number)) : Optional.empty();
    }

    /** A customer's credit: money that was not set against anything. */
    public Money credit(String customer) {
        return company.money(queries.credit(customer));
    }

    /** Those on which an order stands and something is open, oldest first. */
    List<OpenInvoice> ofOrder(long orderId) {
        return open(queries.openOfOrder(orderId));
    }

    private List<OpenInvoice> open(List<InvoiceQueries.OpenRow> rows) {
        return rows.stream()
                .map(row -> new OpenInvoice(
                        row.number(), row.customer(), company.money(row.gross()), company.money(row.openAmount())))
                .toList();
    }
}
