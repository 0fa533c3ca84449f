package app.euthyna.server.paper;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.billing.InvoiceReminders;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Records;
import org.springframework.stereotype.Component;

/** Reminds one customer among many of invoices past due. */
@Component
class InvoiceReminding implements BatchWork {

    private final InvoiceReminders reminders;
    private final Mailing mailing;

    InvoiceReminding(InvoiceReminders reminders, Mailing mailing) {
        this.reminders = reminders;
        this.mailing = mailing;
    }

    /** A customer that is to be reminded, as one of many. */
    record AskedReminder(String customer) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.REMINDERS;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var customer = Records.read(request, AskedReminder.class).customer();
        var written = reminders.write(context, customer);
        var address = mailing.address(customer);
        var reminder = written.reminder();
        var message = mailing.send(
                context,
                Paper.REMINDER,
                String.valueOf(written.id()),
                address,
                AccountPapers.titleOf(reminder.step()) + ": " + AccountPapers.sum(reminder.open()) + " open",
                AccountPapers.words(reminder.step()),
                customer);
        reminders.sent(written.id(), message);
        return new Done(
                (DocumentRef) null,
                "%s over %s, %s"
                        .formatted(
                                AccountPapers.titleOf(reminder.step()),
                                reminder.open(),
                                reminder.invoices().size() == 1
                                        ? "one invoice"
                                        : reminder.invoices().size() + " invoices"));
    }
}
