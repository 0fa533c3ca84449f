package app.euthyna.server.billing;

import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;

/** What a customer owes at a date and how it came to that; which invoices are past due. */
@Service
public class Statements {

    /**
     * Roles whose amounts make up what a customer owes: receivables, less deposits and what is to the customer's
     * credit.
     */
    private static final String OWED = "('receivables', 'customer_credit', 'deposits')";

    private static final int LONGEST = 2_000;

    private final JdbcClient jdbc;
    private final Company company;
    private final Ids ids;

    Statements(JdbcClient jdbc, Company company, Ids ids) {
        this.jdbc = jdbc;
        this.company = company;
        this.ids = ids;
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

    /** An invoice with something open at the date. */
    public record OpenItem(
            String invoice, LocalDate on, LocalDate dueOn, BigDecimal gross, BigDecimal open, long daysLate) {}

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

    public AccountStatementView of(String customer, LocalDate from, LocalDate to) {
        var id = ids.customer(customer);
        var opening = sum(
                "select coalesce(sum(l.amount), 0) from journal_entry e join journal_line l on l.entry_id = e.id where"
                        + " e.customer_id = ? and e.entry_date < ? and l.role in " + OWED,
                id,
                from);
        var rows = new ArrayList<StatementRow>();
        var balance = new Money[] {opening};
        jdbc.sql("select e.entry_date, e.document_kind, e.document_number, e.event, sum(l.amount) from"
                        + " journal_entry e join journal_line l on l.entry_id = e.id where e.customer_id = ? and"
                        + " e.entry_date >= ? and e.entry_date <= ? and l.role in "
                        + OWED
                        + " group by e.id, e.entry_date, e.document_kind, e.document_number, e.event having"
                        + " sum(l.amount) <> 0 order by e.entry_date, e.id fetch first "
                        + LONGEST + " rows only")
                .params(id, from, to)
                .query((r, n) -> {
                    var amount = company.money(r.getBigDecimal(5));
                    var zero = amount.minus(amount);
                    balance[0] = balance[0].plus(amount);
                    return rows.add(new StatementRow(
                            r.getObject(1, LocalDate.class),
                            r.getString(2),
                            r.getString(3),
                            r.getString(4),
                            amount.max(zero).amount(),
                            amount.negated().max(zero).amount(),
                            balance[0].amount()));
                })
                .list();
        var items = openItems(id, to);
        var open = items.stream().map(item -> company.money(item.open())).reduce(opening.minus(opening), Money::plus);
        var name = jdbc.sql("select name from customer where id = ?")
                .param(id)
                .query(String.class)
                .single();
        return new AccountStatementView(
                customer,
                name,
                from,
                to,
                opening.amount(),
                rows,
                balance[0].amount(),
                items,
                open.amount(),
                open.minus(balance[0]).amount());
    }

    /** What was open then: gross less all that had been set against it by that day. */
    private List<OpenItem> openItems(long customer, LocalDate on) {
        return jdbc.sql("""
            select number, invoiced_on, due_on, gross, still from (
                select i.number, i.invoiced_on, i.due_on, i.gross, i.id, case when i.reversed_on <= :on then 0
                    else i.gross end
                    - coalesce((select sum(a.amount) from allocation a where a.invoice_id = i.id
                        and a.allocated_on <= :on), 0)
                    - coalesce((select sum(u.amount) from deposit_use u where u.invoice_id = i.id
                        and u.used_on <= :on), 0) as still
                from invoice i where i.customer_id = :customer and i.invoiced_on <= :on) t
            where still <> 0 order by due_on, id fetch first LONGEST rows only\
            """.replace("LONGEST", String.valueOf(LONGEST)))
                .param("on", on)
                .param("customer", customer)
                .query((r, n) -> new OpenItem(
                        r.getString(1),
                        r.getObject(2, LocalDate.class),
                        r.getObject(3, LocalDate.class),
                        company.money(r.getBigDecimal(4)).amount(),
                        company.money(r.getBigDecimal(5)).amount(),
                        Math.max(0, java.time.temporal.ChronoUnit.DAYS.between(r.getObject(3, LocalDate.class), on))))
                .list();
    }

    private Money sum(String sql, Object... parameters) {
        return company.money(
                jdbc.sql(sql).params(parameters).query(BigDecimal.class).single());
    }
}
