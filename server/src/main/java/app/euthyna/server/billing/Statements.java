package app.euthyna.server.billing;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Service;

/** What a customer owes at a date and how it came to that; which invoices are past due. */
@Service
public class Statements {

    /** Longer than that nobody reads one. */
    static final int MOST_ROWS = 2_000;

    private final InvoiceQueries queries;
    private final Company company;
    private final Ids ids;

    Statements(InvoiceQueries queries, Company company, Ids ids) {
        this.queries = queries;
        this.company = company;
        this.ids = ids;
    }

    /** An entry that moved what a customer owes. */
    public record Moved(
            long id,
            LocalDate entryDate,
            String documentKind,
            String documentNumber,
            String event,
            BigDecimal amount) {}

    /** What a customer owed before a day. */
    public BigDecimal owedBefore(long customer, LocalDate day) {
        return queries.owedBefore(customer, day);
    }

    /** The first entries of some days, by day. */
    public List<Moved> moves(long customer, LocalDate from, LocalDate to, int most) {
        return queries.owed(customer, from, to, most);
    }

    /** An entry that moved what the customer owes, with the balance behind it. */
    public record StatementRow(
            LocalDate on,
            String documentKind,
            String documentNumber,
            String event,
            BigDecimal debit,
            BigDecimal credit,
            BigDecimal balance) {}

    /**
     * An invoice with something open at the date.
     *
     * @param disputed what of that the customer does not agree with
     */
    public record OpenItem(
            String invoice,
            LocalDate on,
            LocalDate dueOn,
            BigDecimal gross,
            BigDecimal open,
            BigDecimal disputed,
            long daysLate) {}

    /**
     * A statement of account.
     *
     * @param opening owed before the first day; what is owed is positive
     * @param unapplied deposits and customer credit at the date
     */
    public record AccountStatementView(
            String customer,
            String customerName,
            LocalDate from,
            LocalDate to,
            BigDecimal opening,
            List<StatementRow> rows,
            BigDecimal closing,
            List<OpenItem> openItems,
            BigDecimal open,
            BigDecimal unapplied) {}

    /**
     * The statement of some days.
     *
     * @throws RefusedException where there is more than goes on one: a sum over a part of it would not be true
     */
    public AccountStatementView of(String customer, LocalDate from, LocalDate to) {
        var id = ids.customer(customer);
        var opening = company.money(queries.owedBefore(id, from));
        var rows = new ArrayList<StatementRow>();
        var balance = opening;
        for (var moved : whole("from", queries.owed(id, from, to, MOST_ROWS + 1))) {
            var amount = company.money(moved.amount());
            var zero = amount.minus(amount);
            balance = balance.plus(amount);
            rows.add(new StatementRow(
                    moved.entryDate(),
                    moved.documentKind(),
                    moved.documentNumber(),
                    moved.event(),
                    amount.max(zero).amount(),
                    amount.negated().max(zero).amount(),
                    balance.amount()));
        }
        var items = openItems(id, to);
        var open = items.stream().map(item -> company.money(item.open())).reduce(opening.minus(opening), Money::plus);
        var name = queries.customerName(id);
        return new AccountStatementView(
                customer,
                name,
                from,
                to,
                opening.amount(),
                rows,
                balance.amount(),
                items,
                open.amount(),
                open.minus(balance).amount());
    }

    private static <T> List<T> whole(String field, List<T> rows) {
        if (rows.size() > MOST_ROWS) {
            throw new RefusedException(CommonRefusal.Incomplete.of(
                    field, "another day: a statement has at most %d entries".formatted(MOST_ROWS)));
        }
        return rows;
    }

    /** What was open then: gross less all that had been set against it by that day. */
    private List<OpenItem> openItems(long customer, LocalDate on) {
        return whole("to", queries.openItems(customer, on, MOST_ROWS + 1)).stream()
                .map(row -> new OpenItem(
                        row.number(),
                        row.invoicedOn(),
                        row.dueOn(),
                        company.money(row.gross()).amount(),
                        company.money(row.still()).amount(),
                        company.money(row.disputed()).amount(),
                        Math.max(0, ChronoUnit.DAYS.between(row.dueOn(), on))))
                .toList();
    }
}
