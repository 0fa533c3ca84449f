package app.euthyna.server.paper;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.billing.Dunning;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.server.billing.InvoiceReminders;
import app.euthyna.server.billing.Statements;
import app.euthyna.server.paper.PaperText.Column;
import app.euthyna.server.paper.PaperText.Fact;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Statements of account and reminders. */
@Component
class AccountPapers {

    private static final List<String> REMINDERS = List.of("", "Reminder", "Second reminder", "Final reminder");
    private static final List<String> WORDS = List.of("", """
        The invoices below are past due. If you have paid in the last few days, please disregard this reminder.\
        """, """
        We have had no answer to our reminder, and the invoices below are still open. Please pay them within seven days, \
        or tell us what prevents payment.\
        """, """
        Despite two reminders the invoices below are still open. Unless they are paid within seven days \
        we will hold your orders and refer the matter to collection.\
        """);

    private final Letterhead letterhead;
    private final PaperQueries queries;
    private final Statements statements;
    private final InvoiceReminders reminders;

    AccountPapers(Letterhead letterhead, PaperQueries queries, Statements statements, InvoiceReminders reminders) {
        this.letterhead = letterhead;
        this.queries = queries;
        this.statements = statements;
        this.reminders = reminders;
    }

    private static LocalDate day(String text) {
        try {
            // ten characters: the years that every database knows
            return LocalDate.parse(text.length() == 10 ? text : "");
        } catch (DateTimeParseException notADay) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("numbers", "CUSTOMER|from|to, with days like 2026-03-02"));
        }
    }

    PaperText statement(String number, int copy, LocalDate today) {
        var parts = number.split("\\|", -1);
        var to = parts.length > 2 ? day(parts[2]) : today;
        var from = parts.length > 1 ? day(parts[1]) : to.minusMonths(3);
        RefusedException.where(Dating.span("from", from, "to", to));
        var view = statements.of(parts[0], from, to);
        var rows = new ArrayList<List<String>>();
        rows.add(List.of(Figures.day(from), "", "Balance brought forward", "", "", Figures.grouped(view.opening())));
        view.rows()
                .forEach(row -> rows.add(List.of(
                        Figures.day(row.on()),
                        row.documentNumber(),
                        row.event(),
                        orNothing(row.debit()),
                        orNothing(row.credit()),
                        Figures.grouped(row.balance()))));
        var disputed =
                view.openItems().stream().anyMatch(item -> item.disputed().signum() > 0);
        return letterhead
                .paper(letterhead.party(parts[0]), "Statement of account at " + Figures.day(to), copy, "")
                .table(
                        List.of(
                                Column.text("Date"),
                                Column.text("Document"),
                                Column.text("What"),
                                Column.figure("Debit"),
                                Column.figure("Credit"),
                                Column.figure("Balance " + letterhead.currency())),
                        rows,
                        row -> row)
                .heading("Open invoices")
                .table(
                        with(
                                disputed,
                                List.of(
                                        Column.text("Invoice"),
                                        Column.text("Date"),
                                        Column.text("Due"),
                                        Column.figure("Days past due"),
                                        Column.figure("Gross"),
                                        Column.figure("Open " + letterhead.currency())),
                                Column.figure("of it disputed")),
                        view.openItems(),
                        item -> with(
                                disputed,
                                List.of(
                                        item.invoice(),
                                        Figures.day(item.on()),
                                        Figures.day(item.dueOn()),
                                        item.daysLate() == 0 ? "" : String.valueOf(item.daysLate()),
                                        Figures.grouped(item.gross()),
                                        Figures.grouped(item.open())),
                                orNothing(item.disputed())))
                .sums(
                        List.of(
                                Letterhead.sum("Open invoices", view.open()),
                                Letterhead.sum(
                                        "Deposits and credit", view.unapplied().negate())),
                        Letterhead.sum("Balance, " + letterhead.currency(), view.closing()));
    }

    /** The columns of a table, and one more where it is wanted. */
    private static <T> List<T> with(boolean wanted, List<T> columns, T more) {
        return wanted ? Stream.concat(columns.stream(), Stream.of(more)).toList() : columns;
    }

    private static String orNothing(BigDecimal figure) {
        return figure.signum() == 0 ? "" : Figures.grouped(figure);
    }

    PaperText reminder(String number, int copy) {
        long id;
        try {
            id = Long.parseLong(number);
        } catch (NumberFormatException none) {
            throw new RefusedException(new CommonRefusal.NotFound("reminder", number));
        }
        var reminder = reminders.reminder(id);
        var customer = queries.customerReminded(id).orElseThrow();
        var on = reminder.invoices().get(0).remindedOn();
        return letterhead
                .paper(letterhead.party(customer), REMINDERS.get(reminder.step()), copy, "")
                .facts(new Fact("Date", Figures.day(on)))
                .paragraph(words(reminder.step()))
                .table(
                        List.of(
                                Column.text("Invoice"),
                                Column.text("Due"),
                                Column.figure("Days past due"),
                                Column.text("Payment reference"),
                                Column.figure("Open " + letterhead.currency())),
                        reminder.invoices(),
                        i -> List.of(
                                i.invoice(),
                                Figures.day(i.dueOn()),
                                String.valueOf(i.daysLate(on)),
                                CreditorReference.of(i.invoice()),
                                Figures.grouped(i.open().amount())))
                .sums(
                        List.of(),
                        Letterhead.sum(
                                "Amount due, " + letterhead.currency(),
                                reminder.open().amount()));
    }

    /** The words of a reminder, on paper and in the message. */
    static String words(int step) {
        return WORDS.get(Math.min(step, Dunning.AFTER_DAYS.size()));
    }

    static String titleOf(int step) {
        return REMINDERS.get(step);
    }

    /** Sum in words of the company for the message. */
    static String sum(Money open) {
        return open.toString();
    }
}
