package app.euthyna.server.paper;

import app.euthyna.core.billing.Dunning;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.billing.InvoiceReminders;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
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
