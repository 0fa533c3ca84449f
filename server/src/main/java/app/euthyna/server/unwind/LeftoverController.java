package app.euthyna.server.unwind;

import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Likes;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Orders with a rest that nobody waits for any more, and what was undone over a time. */
@RestController
@RequestMapping("/api/unwind")
class LeftoverController {

    private final UnwindService unwind;
    private final Company company;
    private final UnwindQueries queries;

    LeftoverController(UnwindService unwind, Company company, UnwindQueries queries) {
        this.unwind = unwind;
        this.company = company;
        this.queries = queries;
    }

    /** An order with something open. */
    record LeftoverRow(
            String order,
            String customer,
            String customerName,
            String po,
            LocalDate orderedOn,
            LocalDate requestedOn,
            boolean partShipped,
            BigDecimal openGross) {}

    record LeftoverPage(List<LeftoverRow> rows, @Nullable String next) {}

    record UndoneRow(String key, String words, long count, BigDecimal amount) {}

    record UndoneReport(LocalDate from, LocalDate to, long count, BigDecimal amount, List<UndoneRow> rows) {}

    /**
     * Orders with something open, those wanted longest ago first.
     *
     * @param before only those ordered before that day
     * @param partShipped only those of which something has left
     * @param customer the beginning of a name or code
     */
    @GetMapping("/leftovers")
    LeftoverPage leftovers(
            @RequestParam(required = false) LocalDate before,
            @RequestParam(defaultValue = "false") boolean partShipped,
            @RequestParam(required = false) String customer,
            @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after);
        var page = Pages.of(
                queries.leftovers(
                        before,
                        partShipped,
                        customer == null || customer.isBlank()
                                ? null
                                : Likes.containing(customer.strip().toLowerCase(Locale.ROOT)),
                        key == null ? null : key.date(0),
                        key == null ? null : key.number(1)),
                row -> List.of(row.requestedOn().toString(), String.valueOf(row.id())));
        return new LeftoverPage(
                page.rows().stream()
                        .map(row -> new LeftoverRow(
                                row.number(),
                                row.customer(),
                                row.customerName(),
                                row.po(),
                                row.orderedOn(),
                                row.requestedOn(),
                                row.partShipped(),
                                company.money(row.openGross()).amount()))
                        .toList(),
                page.next());
    }

    /**
     * What was undone between two days, abandoned plans left out, the most valuable first.
     *
     * @param by reason, customer, writer or intent
     */
    @GetMapping("/report")
    UndoneReport report(
            @RequestParam(required = false) LocalDate from,
            @RequestParam(required = false) LocalDate to,
            @RequestParam(defaultValue = "reason") String by) {
        var until = to == null ? company.today() : to;
        var since = from == null ? until.minusMonths(3) : from;
        RefusedException.where(Dating.span("from", since, "to", until));
        var key = switch (by) {
            case "customer" -> "c.code";
            case "writer" -> "u.undoneBy";
            case "intent" -> "u.intent";
            default -> "u.reasonCode";
        };
        var words = by.equals("customer") ? "c.name" : key;
        var rows = queries.undone(key, words, since, until).stream()
                .map(row -> new UndoneRow(
                        row.key(),
                        words(by, row.words()),
                        row.count(),
                        company.money(row.amount()).amount()))
                .toList();
        var total =
                rows.stream().map(r -> company.money(r.amount())).reduce(Money.zero(company.currency()), Money::plus);
        return new UndoneReport(
                since, until, rows.stream().mapToLong(UndoneRow::count).sum(), total.amount(), rows);
    }

    private String words(String by, String key) {
        return by.equals("reason") ? unwind.reasonWords(key) : by.equals("intent") ? key.replace('-', ' ') : key;
    }
}
