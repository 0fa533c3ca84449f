package app.euthyna.server.unwind;

import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.masterdata.Likes;
import app.euthyna.server.platform.Commands;
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
import java.util.List;
import java.util.Locale;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Cancelling the rest of many orders at once, and what was undone over a time. */
@RestController
@RequestMapping("/api/unwind")
class LeftoverController {

    private final UnwindService unwind;
    private final Commands commands;
    private final Batches batches;
    private final Company company;
    private final UnwindQueries queries;

    LeftoverController(
            UnwindService unwind, Commands commands, Batches batches, Company company, UnwindQueries queries) {
        this.unwind = unwind;
        this.commands = commands;
        this.batches = batches;
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

    record LeftoverOrders(@NotEmpty @Size(max = 1000) List<@NotBlank String> orders) {}

    /**
     * What would become of an order.
     *
     * @param amount net that would be given up
     * @param why it can't be; null where it can
     */
    record GivenUp(
            String order,
            BigDecimal amount,
            List<String> steps,
            @Nullable String code,
            @Nullable String why,
            @Nullable String fingerprint) {}

    record GivenUpView(BigDecimal total, int possible, List<GivenUp> orders) {}

    record PlannedOrder(@NotBlank String order, @NotBlank String fingerprint) {}

    record Together(
            @NotEmpty @Size(max = 1000) List<@Valid PlannedOrder> orders,
            @NotBlank @Size(max = 60) String reasonCode,
            @NotBlank @Size(max = 2000) String reason) {}

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
                                : "%" + Likes.from(customer.strip().toLowerCase(Locale.ROOT)),
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

    /** What cancelling the rest of these would give up, one by one and together. A question: it keeps nothing. */
    @Permissions.Decide
    @PostMapping("/leftovers/previews")
    GivenUpView preview(@Valid @RequestBody LeftoverOrders request) {
        var context = commands.context().because("no reason given yet");
        var orders = request.orders().stream()
                .distinct()
                .map(order -> {
                    var asked = AskedUnwind.of(DocumentKind.ORDER, order, "cancel-rest");
                    var planned = unwind.plan(context, asked);
                    return planned.isRefused()
                            ? new GivenUp(
                                    order,
                                    BigDecimal.ZERO,
                                    List.of(),
                                    planned.refusals().get(0).code(),
                                    planned.refusals().get(0).sentence(),
                                    null)
                            : new GivenUp(
                                    order,
                                    planned.get().value().amount(),
                                    planned.get().steps().stream()
                                            .map(step -> step.kind().code())
                                            .toList(),
                                    null,
                                    null,
                                    unwind.fingerprintOf(context, asked, "leftover"));
                })
                .toList();
        var total =
                orders.stream().map(o -> company.money(o.amount())).reduce(Money.zero(company.currency()), Money::plus);
        return new GivenUpView(
                total.amount(),
                (int) orders.stream().filter(o -> o.fingerprint() != null).count(),
                orders);
    }

    /** Cancels the rest of each, in a transaction of its own; the batch is the log. */
    @Permissions.Decide
    @PostMapping("/leftovers/cancellations")
    Batches.BatchView together(@Valid @RequestBody Together request, HttpServletRequest http) {
        var begun = commands.run(
                http,
                request,
                Begun.class,
                context -> new Begun(batches.begin(
                        context.because(request.reason()),
                        Batches.Kind.CANCELLING,
                        request.orders().stream()
                                .map(o -> new Batches.Asked(
                                        DocumentKind.ORDER,
                                        o.order(),
                                        new UnwindWork.Request(o.order(), o.fingerprint(), request.reasonCode())))
                                .toList())));
        return batches.carryOut(begun.batch());
    }

    record Begun(long batch) {}

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
