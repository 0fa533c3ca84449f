package app.euthyna.server.billing;

import app.euthyna.core.billing.Dunning;
import app.euthyna.core.billing.Dunning.Overdue;
import app.euthyna.core.billing.Dunning.Reminder;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Which reminders are due to whom, and that they went out. */
@Service
public class InvoiceReminders {

    private final JdbcClient jdbc;
    private final Company company;
    private final Ids ids;
    private final Locks locks;
    private final CompanyClock clock;

    InvoiceReminders(JdbcClient jdbc, Company company, Ids ids, Locks locks, CompanyClock clock) {
        this.clock = clock;
        this.jdbc = jdbc;
        this.company = company;
        this.ids = ids;
        this.locks = locks;
    }

    /** Invoices of a customer that are past due on a day, with the last reminder that named each. */
    public List<Overdue> overdue(String customer, LocalDate on) {
        return jdbc.sql("""
            select i.number, i.due_on, i.still, coalesce((select max(r.step) from reminder_invoice r
            join reminder m on m.id = r.reminder_id where r.invoice_id = i.id and m.reminded_on <= :day), 0),
                   (select max(m.reminded_on) from reminder_invoice r join reminder m on m.id = r.reminder_id
                   where r.invoice_id = i.id and m.reminded_on <= :day)
            from (INVOICES) i where i.customer_id = :customer and i.due_on < :day and i.still > 0
            order by i.due_on, i.id fetch first 500 rows only\
            """.replace("INVOICES", OpenInvoices.asOf(on.equals(clock.today()))))
                .param("customer", ids.customer(customer))
                .param("day", on)
                .query((r, n) -> new Overdue(
                        r.getString(1),
                        r.getObject(2, LocalDate.class),
                        company.money(r.getBigDecimal(3)),
                        r.getInt(4),
                        r.getObject(5, LocalDate.class)))
                .list();
    }

    /** The reminder that a customer is due; none where it is too early. */
    public Optional<Reminder> due(String customer, LocalDate on) {
        return Dunning.reminder(overdue(customer, on), on);
    }

    /** A reminder that went out. */
    public record Written(long id, Reminder reminder) {}

    /** Notes the reminder that a customer is due; refused where none is. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Written write(CommandContext context, String customer) {
        locks.customer(customer);
        var reminder = due(customer, context.date()).orElseThrow(() -> new RefusedException(new NothingDue(customer)));
        var key = new GeneratedKeyHolder();
        jdbc.sql("insert into reminder (customer_id, step, reminded_on, reminded_by) values (?, ?, ?, ?)")
                .params(
                        ids.customer(customer),
                        reminder.step(),
                        context.date(),
                        context.person().username())
                .update(key, "id");
        var id = key.getKeyAs(Long.class);
        reminder.invoices()
                .forEach(invoice -> jdbc.sql(
                                "insert into reminder_invoice (reminder_id, invoice_id, step, open_amount) values (?,"
                                        + " ?, ?, ?)")
                        .params(
                                id,
                                ids.invoice(invoice.invoice()),
                                reminder.step(),
                                invoice.open().amount())
                        .update());
        return new Written(id, reminder);
    }

    /** No reminder is due. */
    record NothingDue(String customer) implements app.euthyna.core.shared.Refusal {
        @Override
        public String code() {
            return "nothing-due";
        }

        @Override
        public Kind kind() {
            return Kind.RULE_NOT_MET;
        }

        @Override
        public String sentence() {
            return "No reminder is due for customer %s: nothing is late enough, or the last reminder is too recent."
                    .formatted(customer);
        }
    }

    /** A reminder as it was written, for whoever prints it again. */
    public Reminder reminder(long id) {
        var step = jdbc.sql("select step from reminder where id = ?")
                .param(id)
                .query(Integer.class)
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("reminder", String.valueOf(id))));
        var invoices = jdbc.sql("""
            select i.number, i.due_on, r.open_amount, r.step, m.reminded_on from reminder_invoice r
            join reminder m on m.id = r.reminder_id
            join invoice i on i.id = r.invoice_id where r.reminder_id = ? order by i.due_on, i.id\
            """)
                .param(id)
                .query((r, n) -> new Overdue(
                        r.getString(1),
                        r.getObject(2, LocalDate.class),
                        company.money(r.getBigDecimal(3)),
                        r.getInt(4),
                        r.getObject(5, LocalDate.class)))
                .list();
        return new Reminder(
                step,
                invoices,
                invoices.stream().map(Overdue::open).reduce((a, b) -> a.plus(b)).orElseThrow());
    }
}
