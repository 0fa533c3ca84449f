package app.euthyna.server.billing;

import app.euthyna.core.billing.Reminding;
import app.euthyna.core.billing.Reminding.Letter;
import app.euthyna.core.billing.Reminding.Overdue;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
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

/** Which letters are due to whom, and that they went out. */
@Service
public class ReminderLetters {

    private final JdbcClient jdbc;
    private final Company company;
    private final Ids ids;
    private final Locks locks;

    ReminderLetters(JdbcClient jdbc, Company company, Ids ids, Locks locks) {
        this.jdbc = jdbc;
        this.company = company;
        this.ids = ids;
        this.locks = locks;
    }

    /** Invoices of a customer that are past due on a day, with the last letter that named each. */
    public List<Overdue> overdue(String customer, LocalDate on) {
        return jdbc.sql("""
            select i.number, i.due_on, i.open_amount, coalesce((select max(r.step) from reminder_invoice r
            where r.invoice_id = i.id), 0),
                   (select max(m.reminded_on) from reminder_invoice r join reminder m on m.id = r.reminder_id
                   where r.invoice_id = i.id)
            from invoice i where i.customer_id = ? and i.due_on < ? and i.open_amount > 0
            order by i.due_on, i.id fetch first 500 rows only\
            """)
                .params(ids.customer(customer), on)
                .query((r, n) -> new Overdue(
                        r.getString(1),
                        r.getObject(2, LocalDate.class),
                        company.money(r.getBigDecimal(3)),
                        r.getInt(4),
                        r.getObject(5, LocalDate.class)))
                .list();
    }

    /** The letter that a customer is due; none where it is too early. */
    public Optional<Letter> due(String customer, LocalDate on) {
        return Reminding.letter(overdue(customer, on), on);
    }

    /** A letter that went out. */
    public record Written(long id, Letter letter) {}

    /** Notes the letter that a customer is due; refused where none is. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Written write(CommandContext context, String customer) {
        locks.customer(customer);
        var letter = due(customer, context.date()).orElseThrow(() -> new RefusedException(new NothingDue(customer)));
        var key = new GeneratedKeyHolder();
        jdbc.sql("insert into reminder (customer_id, step, reminded_on, reminded_by) values (?, ?, ?, ?)")
                .params(
                        ids.customer(customer),
                        letter.step(),
                        context.date(),
                        context.person().username())
                .update(key, "id");
        var id = key.getKeyAs(Long.class);
        letter.invoices()
                .forEach(invoice -> jdbc.sql(
                                "insert into reminder_invoice (reminder_id, invoice_id, step, open_amount) values (?,"
                                        + " ?, ?, ?)")
                        .params(
                                id,
                                ids.invoice(invoice.invoice()),
                                letter.step(),
                                invoice.open().amount())
                        .update());
        return new Written(id, letter);
    }

    /** No letter is due. */
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
            return "No reminder is due to customer %s: nothing is late enough, or the last letter is too fresh."
                    .formatted(customer);
        }
    }

    /** A letter as it was written, for whoever prints it again. */
    public Letter letter(long id) {
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
        return new Letter(
                step,
                invoices,
                invoices.stream().map(Overdue::open).reduce((a, b) -> a.plus(b)).orElseThrow());
    }
}
