package app.euthyna.server.billing;

import app.euthyna.core.billing.Dunning;
import app.euthyna.core.billing.Dunning.Overdue;
import app.euthyna.core.billing.Dunning.Reminder;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Which reminders are due to whom, and that they went out. */
@Service
public class InvoiceReminders {

    private final InvoiceQueries queries;
    private final Company company;
    private final Ids ids;
    private final Locks locks;

    InvoiceReminders(InvoiceQueries queries, Company company, Ids ids, Locks locks) {
        this.queries = queries;
        this.company = company;
        this.ids = ids;
        this.locks = locks;
    }

    /** Invoices of a customer that are past due on a day, with the last reminder that named each. */
    public List<Overdue> overdue(String customer, LocalDate on) {
        var id = ids.customer(customer);
        var overdue = on.equals(company.today()) ? queries.overdueToday(id, on) : queries.overdueOn(id, on);
        return overdue.stream()
                .map(row -> new Overdue(
                        row.number(), row.dueOn(), company.money(row.still()), row.step(), row.remindedOn()))
                .toList();
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
        var row = new ReminderEntity();
        row.customerId = ids.customer(customer);
        row.step = reminder.step();
        row.remindedOn = context.date();
        row.remindedBy = context.person().username();
        queries.session().insert(row);
        reminder.invoices().forEach(invoice -> {
            var dunned = new ReminderInvoiceEntity();
            dunned.reminderId = row.id;
            dunned.invoiceId = ids.invoice(invoice.invoice());
            dunned.step = reminder.step();
            dunned.openAmount = invoice.open().amount();
            queries.session().insert(dunned);
        });
        return new Written(row.id, reminder);
    }

    /** Notes the message with which a reminder went out. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void sent(long reminder, long message) {
        queries.sent(message, reminder);
    }

    /** No reminder is due. */
    @Code("nothing-due")
    record NothingDue(String customer) implements Refusal {}

    /** A reminder as it was written, for whoever prints it again. */
    public Reminder reminder(long id) {
        var step = queries.reminderStep(id)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("reminder", String.valueOf(id))));
        var invoices = queries.dunned(id).stream()
                .map(row -> new Overdue(
                        row.invoice(), row.dueOn(), company.money(row.openAmount()), row.step(), row.remindedOn()))
                .toList();
        return new Reminder(
                step,
                invoices,
                invoices.stream().map(Overdue::open).reduce((a, b) -> a.plus(b)).orElseThrow());
    }
}
