package app.euthyna.server.order;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Orders over HTTP. */
@RestController
@RequestMapping("/api/orders")
class OrderController {

    private final OrderService orders;
    private final Commands commands;
    private final OrderQueries queries;
    private final Company company;
    private final OrderStarting starting;

    OrderController(
            OrderService orders, Commands commands, OrderQueries queries, Company company, OrderStarting starting) {
        this.starting = starting;
        this.company = company;
        this.orders = orders;
        this.commands = commands;
        this.queries = queries;
    }

    /** An order as it is sent; {@code draft} keeps it as a draft. */
    record WrittenOrder(
            @NotBlank String customer,
            @Size(max = 120) String po,
            OrderKind kind,
            String site,
            LocalDate date,
            @Size(max = 2000) String reason,
            LocalDate requestedOn,
            @Size(max = 2000) String remark,
            @Valid WrittenDetails details,
            @Size(max = 2000) List<@Valid WrittenLine> lines,
            Boolean draft) {
        OrderDraft draftOf() {
            return written(customer, po, kind, site, date, requestedOn, remark, details, lines);
        }
    }

    /** A change: the lines are all the lines the order is to have. */
    record ChangedOrder(
            @NotNull Long version,
            @Size(max = 120) String po,
            LocalDate date,
            @Size(max = 2000) String reason,
            LocalDate requestedOn,
            @Size(max = 2000) String remark,
            @Valid WrittenDetails details,
            @NotNull @Size(max = 2000) List<@Valid WrittenLine> lines) {}

    record Submission(@NotNull Long version) {}

    private static OrderDraft written(
            String customer,
            String po,
            OrderKind kind,
            String site,
            LocalDate date,
            LocalDate requestedOn,
            String remark,
            WrittenDetails details,
            List<WrittenLine> lines) {
        return new OrderDraft(
                customer,
                po,
                kind,
                site,
                date,
                requestedOn,
                remark,
                null,
                details == null ? null : details.core(),
                lines == null
                        ? List.of()
                        : lines.stream().map(WrittenLine::line).toList());
    }

    @Permissions.Enter
    @PostMapping
    OrderView write(@Valid @RequestBody WrittenOrder request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                OrderView.class,
                context -> Boolean.TRUE.equals(request.draft())
                        ? orders.keep(context.given(request.date(), request.reason()), request.draftOf())
                        : orders.submit(context.given(request.date(), request.reason()), request.draftOf()));
    }

    @Permissions.Enter
    @PutMapping("/{number}")
    OrderView change(@PathVariable String number, @Valid @RequestBody ChangedOrder request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                OrderView.class,
                context -> orders.amend(
                        context.given(request.date(), request.reason()),
                        number,
                        request.version(),
                        written(
                                null,
                                request.po(),
                                null,
                                null,
                                null,
                                request.requestedOn(),
                                request.remark(),
                                request.details(),
                                request.lines())));
    }

    @Permissions.Enter
    @PostMapping("/{number}/submission")
    OrderView submit(@PathVariable String number, @Valid @RequestBody Submission request, HttpServletRequest http) {
        return commands.run(
                http, request, OrderView.class, context -> orders.submitDraft(context, number, request.version()));
    }

    @GetMapping("/{number}")
    OrderView order(@PathVariable String number) {
        return orders.view(number);
    }

    /** A change that was kept. */
    record VersionView(int version, LocalDate on, String by, List<String> differences) {}

    /** What was changed on an order since it was submitted, the newest first. */
    @GetMapping("/{number}/versions")
    List<VersionView> versions(@PathVariable String number) {
        orders.view(number);
        return queries.versions(number).stream()
                .map(row -> new VersionView(
                        row.versionNo(),
                        row.changedOn(),
                        row.changedBy(),
                        row.differences().lines().toList()))
                .toList();
    }

    /** Documents that an order can be started from. */
    enum StartKind {
        ORDER,
        DISPATCH,
        INVOICE,
        RETURN,
        QUOTE,
        BLANKET_ORDER,
        RECURRING_ORDER
    }

    /**
     * An order to be started from an earlier document.
     *
     * @param customer another than the document's, or nothing
     */
    record Started(
            @NotNull StartKind kind,
            @NotBlank String number,
            @Size(max = 40) String customer,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /**
     * Starts a draft with the lines of an earlier document; each line says where it came from, and can be changed or
     * taken out.
     */
    @Permissions.Enter
    @PostMapping("/started")
    OrderView start(@Valid @RequestBody Started request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                OrderView.class,
                context -> starting.startFrom(
                        context.given(request.date(), request.reason()),
                        request.kind(),
                        request.number(),
                        request.customer()));
    }

    /** A row of the list of orders. */
    record OrderRow(
            String number,
            OrderState state,
            String customer,
            String customerName,
            String po,
            LocalDate orderedOn,
            LocalDate requestedOn,
            BigDecimal gross) {}

    record OrderPage(List<OrderRow> rows, @Nullable String next) {}

    /** Orders, newest first, of one customer or all. */
    @GetMapping
    OrderPage list(@RequestParam(required = false) String customer, @RequestParam(required = false) String after) {
        var rows =
                queries.page(customer, after == null ? null : Pages.key(after).number(0));
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new OrderPage(
                page.rows().stream()
                        .map(row -> new OrderRow(
                                row.number(),
                                row.state(),
                                row.customer(),
                                row.customerName(),
                                row.po(),
                                row.orderedOn(),
                                row.requestedOn(),
                                company.money(row.gross()).amount()))
                        .toList(),
                page.next());
    }
}
