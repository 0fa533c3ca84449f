package app.euthyna.server.paper;

import app.euthyna.core.billing.Dunning;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.billing.InvoiceReminders;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.function.UnaryOperator;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Customers with invoices past due, and their reminders. */
@RestController
@RequestMapping("/api")
class OverdueController {

    private final InvoiceReminders reminders;
    private final Batches batches;
    private final Company company;
    private final PaperQueries queries;

    OverdueController(InvoiceReminders reminders, Batches batches, Company company, PaperQueries queries) {
        this.reminders = reminders;
        this.batches = batches;
        this.company = company;
        this.queries = queries;
    }

    /**
     * A customer with invoices past due.
     *
     * @param disputed of what is open: no reminder asks for it
     * @param reminder the step of the reminder that is due; null where none is
     * @param lastStep of the reminder that went out last; zero where none did
     */
    record OverdueRow(
            String customer,
            String customerName,
            long invoices,
            BigDecimal open,
            BigDecimal upTo30,
            BigDecimal upTo60,
            BigDecimal upTo90,
            BigDecimal older,
            BigDecimal disputed,
            long oldestDays,
            @Nullable Integer reminder,
            int lastStep,
            @Nullable LocalDate remindedOn,
            boolean hasAddress) {}

    record OverduePage(List<OverdueRow> rows, @Nullable String next) {}

    /** Customers with invoices past due, and the reminder that each is due. */
    @GetMapping("/receivables/overdue")
    OverduePage overdue(@RequestParam(required = false) LocalDate on, @RequestParam(required = false) String after) {
        var day = on == null ? company.today() : on;
        RefusedException.where(Dating.ahead(day, company.today()));
        var d30 = day.minusDays(30);
        var d60 = day.minusDays(60);
        var d90 = day.minusDays(90);
        var from = after == null ? 0 : Pages.key(after).number(0);
        var found = day.equals(company.today())
                ? queries.overdueToday(d30, d60, d90, day, from)
                : queries.overdueOn(d30, d60, d90, day, from);
        var page = Pages.of(found, row -> List.of(String.valueOf(row.id())));
        return new OverduePage(
                page.rows().stream()
                        .map(row -> new OverdueRow(
                                row.customer(),
                                row.customerName(),
                                row.invoices(),
                                amount(row.open()),
                                amount(row.upTo30()),
                                amount(row.upTo60()),
                                amount(row.upTo90()),
                                amount(row.older()),
                                amount(row.disputed()),
                                ChronoUnit.DAYS.between(row.oldestDue(), day),
                                reminders
                                        .due(row.customer(), day)
                                        .map(Dunning.Reminder::step)
                                        .orElse(null),
                                row.lastStep(),
                                row.remindedOn(),
                                !row.email().isBlank()))
                        .toList(),
                page.next());
    }

    /**
     * What was open by how long it had been due.
     *
     * @param disputed of what is open
     */
    record AgedView(
            BigDecimal open,
            BigDecimal notDue,
            BigDecimal upTo30,
            BigDecimal upTo60,
            BigDecimal upTo90,
            BigDecimal older,
            BigDecimal disputed) {}

    record AgedCustomerView(String customer, String customerName, AgedView aged) {}

    /**
     * Receivables by age.
     *
     * @param total of all customers, not of the page alone
     * @param ledger what the ledger says customers owed on that day; the total, to the cent
     */
    record AgeingView(
            LocalDate on,
            AgedView total,
            @Nullable @ReadBy(ReadBy.Group.BOOKS) BigDecimal ledger,
            List<AgedCustomerView> rows,
            @Nullable String next) {}

    /** Receivables by age as of a day, from documents and the days on which they were settled. */
    @GetMapping("/receivables/ageing")
    AgeingView ageing(@RequestParam(required = false) LocalDate on, @RequestParam(required = false) String after) {
        var day = on == null ? company.today() : on;
        RefusedException.where(Dating.ahead(day, company.today()));
        var d30 = day.minusDays(30);
        var d60 = day.minusDays(60);
        var d90 = day.minusDays(90);
        var page = Pages.of(
                queries.agedCustomers(
                        d30, d60, d90, day, after == null ? 0 : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        var total = queries.aged(d30, d60, d90, day);
        return new AgeingView(
                day,
                new AgedView(
                        amount(total.open()),
                        amount(total.notDue()),
                        amount(total.upTo30()),
                        amount(total.upTo60()),
                        amount(total.upTo90()),
                        amount(total.older()),
                        amount(total.disputed())),
                amount(queries.receivablesOn(day)),
                page.rows().stream()
                        .map(row -> new AgedCustomerView(
                                row.customer(),
                                row.customerName(),
                                new AgedView(
                                        amount(row.open()),
                                        amount(row.notDue()),
                                        amount(row.upTo30()),
                                        amount(row.upTo60()),
                                        amount(row.upTo90()),
                                        amount(row.older()),
                                        amount(row.disputed()))))
                        .toList(),
                page.next());
    }

    private BigDecimal amount(BigDecimal stored) {
        return company.money(stored).amount();
    }

    record ReminderBatch(@NotEmpty @Size(max = 500) List<@NotBlank String> customers) {}

    /** Writes the reminder that customers are due, each on its own; they go to the Outbox. */
    @Permissions.Bill
    @PostMapping("/batches/reminders")
    Batches.BatchView remind(@Valid @RequestBody ReminderBatch request, HttpServletRequest http) {
        return batches.run(
                http,
                request,
                UnaryOperator.identity(),
                Batches.Kind.REMINDERS,
                () -> request.customers().stream()
                        .map(code ->
                                new Batches.Asked(DocumentKind.ORDER, code, new InvoiceReminding.AskedReminder(code)))
                        .toList());
    }
}
