package app.euthyna.server.unwind;

import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.masterdata.Likes;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
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
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.springframework.jdbc.core.simple.JdbcClient;
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
    private final JdbcClient jdbc;
    private final CompanyClock clock;

    LeftoverController(
            UnwindService unwind,
            Commands commands,
            Batches batches,
            Company company,
            JdbcClient jdbc,
            CompanyClock clock) {
        this.unwind = unwind;
        this.commands = commands;
        this.batches = batches;
        this.company = company;
        this.jdbc = jdbc;
        this.clock = clock;
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
        var where = new StringBuilder("x.to_ship = true and x.open_gross > 0");
        var parameters = new ArrayList<Object>();
        if (after != null) {
            where.append(" and (x.requested_on > ? or x.requested_on = ? and x.order_id > ?)");
            parameters.addAll(List.of(
                    Pages.key(after).date(0),
                    Pages.key(after).date(0),
                    Pages.key(after).number(1)));
        }
        if (before != null) {
            where.append(" and o.ordered_on < ?");
            parameters.add(before);
        }
        if (partShipped) {
            where.append(" and x.part_shipped = true");
        }
        if (customer != null && !customer.isBlank()) {
            where.append(" and c.search_key like ? escape '!'");
            parameters.add("%" + Likes.from(customer.strip().toLowerCase(Locale.ROOT)));
        }
        var rows = jdbc.sql("select x.order_id, o.number, c.code, c.name, o.po, o.ordered_on, x.requested_on,"
                        + " x.part_shipped, x.open_gross from open_order x join sales_order o on o.id = x.order_id"
                        + " join customer c on c.id = x.customer_id where "
                        + where
                        + " order by x.to_ship, x.requested_on, x.order_id fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> new Keyed(
                        r.getLong(1),
                        new LeftoverRow(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getObject(6, LocalDate.class),
                                r.getObject(7, LocalDate.class),
                                r.getBoolean(8),
                                company.money(r.getBigDecimal(9)).amount())))
                .list();
        var page = Pages.of(rows, row -> List.of(row.row().requestedOn().toString(), String.valueOf(row.id())));
        return new LeftoverPage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    private record Keyed(long id, LeftoverRow row) {}

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
        var until = to == null ? clock.today() : to;
        var since = from == null ? until.minusMonths(3) : from;
        RefusedException.where(Dating.span("from", since, "to", until));
        var key = switch (by) {
            case "customer" -> "c.code";
            case "writer" -> "u.undone_by";
            case "intent" -> "u.intent";
            default -> "u.reason_code";
        };
        var words = by.equals("customer") ? "c.name" : key;
        var rows = jdbc.sql(
                        "select KEY, WORDS, count(*), coalesce(sum(u.amount), 0) from unwinding u join customer c on c.id = u.customer_id where u.undone_on >= ? and u.undone_on <= ? "
                                        .replace("KEY", key)
                                        .replace("WORDS", words)
                                + "and u.state <> 'ABANDONED' group by " + key + ", " + words
                                + " order by 4 desc, 1 fetch first 200 rows only")
                .params(since, until)
                .query((r, n) -> new UndoneRow(
                        r.getString(1),
                        words(by, r.getString(2)),
                        r.getLong(3),
                        company.money(r.getBigDecimal(4)).amount()))
                .list();
        var total =
                rows.stream().map(r -> company.money(r.amount())).reduce(Money.zero(company.currency()), Money::plus);
        return new UndoneReport(
                since, until, rows.stream().mapToLong(UndoneRow::count).sum(), total.amount(), rows);
    }

    private String words(String by, String key) {
        return by.equals("reason") ? unwind.reasonWords(key) : by.equals("intent") ? key.replace('-', ' ') : key;
    }
}
