package app.euthyna.server.check;

import app.euthyna.core.approval.Level;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.check.Check;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Evidence;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.ReviewPriority;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.check.ReviewViews.DocumentView;
import app.euthyna.server.check.ReviewViews.DryRunView;
import app.euthyna.server.check.ReviewViews.HistoryView;
import app.euthyna.server.check.ReviewViews.LineFlowView;
import app.euthyna.server.check.ReviewViews.PositionView;
import app.euthyna.server.check.ReviewViews.ReasonCount;
import app.euthyna.server.check.ReviewViews.ReasonView;
import app.euthyna.server.check.ReviewViews.ReviewPage;
import app.euthyna.server.check.ReviewViews.ReviewRow;
import app.euthyna.server.check.ReviewViews.SheetView;
import app.euthyna.server.check.ReviewViews.ShortageView;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.Writers;
import app.euthyna.server.order.WrittenDetails;
import app.euthyna.server.order.WrittenLine;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What is held or flagged, why, and the decisions on it. */
@RestController
@RequestMapping("/api")
class ReviewController {

    private final CheckService checks;
    private final OrderService orders;
    private final ChainReader chains;
    private final FindingStore findings;
    private final CheckContextReader checkContexts;
    private final MasterData masterData;
    private final Commands commands;
    private final Company company;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final Clearance clearance;

    ReviewController(
            CheckService checks,
            OrderService orders,
            ChainReader chains,
            FindingStore findings,
            CheckContextReader checkContexts,
            MasterData masterData,
            Commands commands,
            Company company,
            JdbcClient jdbc,
            Clock clock,
            Clearance clearance) {
        this.clearance = clearance;
        this.checks = checks;
        this.orders = orders;
        this.chains = chains;
        this.findings = findings;
        this.checkContexts = checkContexts;
        this.masterData = masterData;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    record Waiver(
            @NotNull Long version,
            @NotNull List<String> findings,
            @NotNull @Size(max = 2000) String reason) {}

    record Declination(
            @NotNull Long version,
            @NotNull @Size(max = 2000) String reason) {}

    /**
     * An order as it is written now.
     *
     * @param number of the order that would be changed so; left out for a new one
     */
    record TriedOrder(
            @Size(max = 40) String number,
            @NotBlank String customer,
            @Size(max = 120) String po,
            OrderKind kind,
            String site,
            LocalDate requestedOn,
            @Valid WrittenDetails details,
            @NotNull @Size(max = 2000) List<@Valid WrittenLine> lines) {}

    @Permissions.Propose
    @PostMapping("/orders/{number}/waivers")
    SheetView waive(@PathVariable String number, @Valid @RequestBody Waiver request, HttpServletRequest http) {
        return commands.run(http, request, SheetView.class, context -> {
            checks.waive(context.because(request.reason()), number, request.version(), named(request.findings()));
            return sheet(number);
        });
    }

    static Set<Check> named(List<String> codes) {
        return codes.stream()
                .map(code -> Check.of(code)
                        .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("check", code))))
                .collect(Collectors.toSet());
    }

    @Permissions.Propose
    @PostMapping("/orders/{number}/declination")
    SheetView decline(@PathVariable String number, @Valid @RequestBody Declination request, HttpServletRequest http) {
        return commands.run(http, request, SheetView.class, context -> {
            checks.decline(context.because(request.reason()), number, request.version());
            return sheet(number);
        });
    }

    /** What would hold the order as it is written now. A question, not a command: it keeps nothing and needs no key. */
    @Permissions.Enter
    @PostMapping("/dry-runs")
    DryRunView dryRun(@Valid @RequestBody TriedOrder request) {
        var context = commands.context();
        var run = checks.dryRun(
                context,
                Optional.ofNullable(request.number()),
                new OrderDraft(
                        request.customer(),
                        request.po(),
                        request.kind(),
                        request.site(),
                        null,
                        request.requestedOn(),
                        null,
                        null,
                        request.details() == null ? null : request.details().core(),
                        request.lines().stream().map(WrittenLine::line).toList()));
        var order = run.chain().order();
        var customer = masterData.customer(order.customer());
        var held = Checks.stateOf(
                run.chain().after(new Effect.StateChanged(order.number(), order.state(), OrderState.SUBMITTED)),
                run.findings());
        var exposure = run.checkContext().position().exposure().plus(run.chain().openGross());
        return new DryRunView(
                orders.simulated(order),
                ReviewViews.sentence(held.name(), run.findings(), null),
                run.findings().stream()
                        .filter(f -> f.isOpen())
                        .map(ReviewViews::finding)
                        .toList(),
                clearance.asks(order),
                new PositionView(
                        ReviewViews.terms(
                                run.checkContext().position(),
                                Optional.of(run.chain().openGross())),
                        exposure.amount(),
                        limit(customer)),
                shortages(run.findings(), order));
    }

    private List<ShortageView> shortages(List<Finding> found, Order order) {
        return found.stream()
                .filter(Finding::isOpen)
                .map(Finding::evidence)
                .filter(Evidence.StockShortage.class::isInstance)
                .map(Evidence.StockShortage.class::cast)
                .flatMap(evidence -> evidence.lines().stream())
                .map(line -> new ShortageView(
                        line.line(),
                        line.covered().value(),
                        line.waiting().value(),
                        checkContexts
                                .freeElsewhere(line.item(), order.siteOf(order.line(line.line())))
                                .entrySet()
                                .stream()
                                .map(there -> new ReviewViews.AtStore(
                                        there.getKey(), there.getValue().value()))
                                .toList()))
                .toList();
    }

    private static BigDecimal limit(Customer customer) {
        return customer.rules().creditLimit().map(Money::amount).orElse(null);
    }

    /** An order with all that speaks for and against it. */
    @GetMapping("/review/{number}")
    SheetView sheet(@PathVariable String number) {
        var chain = chains.chain(number);
        var view = orders.view(number);
        var found = findings.of(number);
        var customer = masterData.customer(view.customer());
        var position = checkContexts.position(view.customer(), "");
        var approval = clearance.requestOf(number);
        return new SheetView(
                view,
                ReviewViews.sentence(view.state().name(), found, approval),
                found.stream().map(ReviewViews::finding).toList(),
                chain.flows().stream().map(ReviewController::flow).toList(),
                new PositionView(
                        ReviewViews.terms(position, Optional.empty()),
                        position.exposure().amount(),
                        limit(customer)),
                documents(number),
                history(number),
                approval);
    }

    static LineFlowView flow(LineFlow flow) {
        return new LineFlowView(
                flow.line().no(),
                flow.ordered().value(),
                flow.cancelled().value(),
                flow.reserved().value(),
                flow.waiting().value(),
                flow.staged().value(),
                flow.dispatched().value(),
                flow.returned().value(),
                flow.billed().value(),
                flow.credited().value(),
                flow.toShip().value(),
                flow.toBill().value());
    }

    private List<DocumentView> documents(String order) {
        var documents = new ArrayList<DocumentView>();
        documents.addAll(jdbc.sql("""
            select d.number, d.state, coalesce(d.departed_on, d.staged_on), d.version from dispatch d
            join sales_order o on o.id = d.order_id where o.number = ? order by d.id\
            """)
                .param(order)
                .query((r, n) -> new DocumentView(
                        "DISPATCH",
                        r.getString(1),
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        null,
                        r.getLong(4)))
                .list());
        documents.addAll(jdbc.sql("""
            select distinct i.id, i.number, i.invoiced_on, i.gross, i.open_amount, i.version,
                i.reversed_on is not null from invoice i
            join invoice_line l on l.invoice_id = i.id join sales_order o on o.id = l.root_order_id where o.number = ?
            order by i.id\
            """)
                .param(order)
                .query((r, n) -> new DocumentView(
                        "INVOICE",
                        r.getString(2),
                        OpenInvoice.state(
                                        company.money(r.getBigDecimal(4)),
                                        company.money(r.getBigDecimal(5)),
                                        r.getBoolean(7))
                                .name(),
                        r.getObject(3, LocalDate.class),
                        company.money(r.getBigDecimal(4)).amount(),
                        r.getLong(6)))
                .list());
        documents.addAll(jdbc.sql("""
            select distinct g.id, g.number, g.authorised_on, g.version, case
                when g.inspecting then 'IN_INSPECTION' when g.expects then 'EXPECTED'
                when g.received_on is null then 'WITHDRAWN' else 'RECEIVED' end
            from goods_return g join return_line l on l.return_id = g.id
            join sales_order o on o.id = l.root_order_id where o.number = ? order by g.id\
            """)
                .param(order)
                .query((r, n) -> new DocumentView(
                        "RETURN", r.getString(2), r.getString(5), r.getObject(3, LocalDate.class), null, r.getLong(4)))
                .list());
        documents.addAll(jdbc.sql("""
            select distinct k.id, k.number, k.credited_on, k.gross, k.version from credit_note k
            join credit_note_line l on l.credit_note_id = k.id
            join sales_order o on o.id = l.root_order_id where o.number = ? order by k.id\
            """)
                .param(order)
                .query((r, n) -> new DocumentView(
                        "CREDIT_NOTE",
                        r.getString(2),
                        "POSTED",
                        r.getObject(3, LocalDate.class),
                        company.money(r.getBigDecimal(4)).amount(),
                        r.getLong(5)))
                .list());
        return documents;
    }

    private List<HistoryView> history(String order) {
        return jdbc.sql("""
            select h.happened_on, h.by_user, h.document_kind, h.document_number, h.sentence from history h
            join sales_order o on o.id = h.order_id where o.number = ? order by h.moment\
            """)
                .param(order)
                .query((r, n) -> new HistoryView(
                        r.getObject(1, LocalDate.class),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5)))
                .list();
    }

    /** A customer's exposure with its terms. */
    @GetMapping("/customers/{code}/position")
    PositionView position(@PathVariable String code) {
        var customer = masterData.customer(code);
        var position = checkContexts.position(code, "");
        return new PositionView(
                ReviewViews.terms(position, Optional.empty()),
                position.exposure().amount(),
                limit(customer));
    }

    /** Part of the review list; MINE are those that wait for the approval of whoever asks. */
    enum Only {
        HELD,
        AWAITING,
        MINE,
        FLAGGED
    }

    /** Sort orders of the review list. */
    enum Sort {
        PRIORITY,
        REQUESTED,
        VALUE,
        AGE
    }

    /** {@link ReviewPriority} as an expression, for the database to sort by. */
    private static String weight(LocalDate today) {
        var sql = new StringBuilder("case");
        for (var weight : ReviewPriority.WEIGHTS) {
            sql.append(" when x.requested_on <= date '")
                    .append(today.plusDays(weight.withinDays()))
                    .append("' then ")
                    .append(weight.factor());
        }
        return sql.append(" else ").append(ReviewPriority.LATER).append(" end").toString();
    }

    /**
     * Held and flagged orders.
     *
     * @param reason only orders with an open finding of this check, or those that wait for approval
     */
    @GetMapping("/review")
    ReviewPage review(
            @RequestParam(defaultValue = "PRIORITY") Sort sort,
            @RequestParam(required = false) String reason,
            @RequestParam(required = false) Only only,
            @RequestParam(required = false) String after) {
        var today = LocalDate.now(clock);
        var key = switch (sort) {
            case PRIORITY -> "case when x.cleared then 1 else 1000000 end * x.open_gross * " + weight(today);
            case VALUE -> "x.open_gross";
            case REQUESTED, AGE -> "0";
        };
        var ascending = switch (sort) {
            case PRIORITY, VALUE -> "x.order_id";
            case REQUESTED -> "x.requested_on, x.order_id";
            case AGE -> "x.order_id";
        };
        var parameters = new HashMap<String, Object>();
        var where = new StringBuilder("x.reviewable = true");
        if (only != null) {
            where.append(
                    switch (only) {
                        case HELD -> " and o.state = 'HELD'";
                        case AWAITING -> " and o.state = 'AWAITING_APPROVAL'";
                        case MINE ->
                            " and o.state = 'AWAITING_APPROVAL' and " + Writers.NOT_MINE
                                    + " and exists (select 1 from approval_request r where r.order_id = x.order_id"
                                    + " and r.state = 'AWAITING' and r.waits_for in (:levels))";
                        case FLAGGED -> " and o.state not in ('HELD', 'AWAITING_APPROVAL')";
                    });
        }
        if (only == Only.MINE) {
            var me = commands.context().person();
            parameters.put("me", me.username());
            parameters.put("myLine", Writers.line(me.username()));
            parameters.put("levels", Level.carriedBy(me));
        }
        if ("approval".equals(reason)) {
            where.append(" and o.state = 'AWAITING_APPROVAL'");
        } else if (reason != null) {
            where.append(" and exists (select 1 from finding f where f.order_id = x.order_id and f.state = 'OPEN' and"
                    + " f.check_code = :reason)");
            parameters.put("reason", reason);
        }
        if (after != null) {
            var seen = Pages.key(after);
            parameters.put("key", seen.figure(0));
            parameters.put("requested", seen.date(1));
            parameters.put("id", seen.number(2));
            where.append(" and (")
                    .append(key)
                    .append(" < :key or (")
                    .append(key)
                    .append(" = :key and ")
                    .append(
                            sort == Sort.REQUESTED
                                    ? "(x.requested_on > :requested or (x.requested_on = :requested and x.order_id >"
                                            + " :id))"
                                    : "x.order_id > :id")
                    .append("))");
        }
        var rows = jdbc.sql("select x.order_id, " + key
                        + " as priority, x.requested_on, x.open_gross, o.number, o.state, c.code, c.name from open_order"
                        + " x join sales_order o on o.id = x.order_id join customer c on c.id = x.customer_id where "
                        + where
                        + " order by " + (key.equals("0") ? "" : key + " desc, ") + ascending + " fetch first "
                        + (Pages.SIZE + 1) + " rows only")
                .params(parameters)
                .query((r, n) -> new Keyed(
                        r.getLong(1),
                        r.getBigDecimal(2),
                        r.getObject(3, LocalDate.class),
                        new ReviewRow(
                                r.getString(5),
                                r.getString(7),
                                r.getString(8),
                                r.getString(6),
                                company.money(r.getBigDecimal(4)).amount(),
                                r.getObject(3, LocalDate.class),
                                null,
                                List.of())))
                .list();
        var page = Pages.of(
                rows,
                row -> List.of(row.key().toPlainString(), row.requestedOn().toString(), String.valueOf(row.id())));
        var totals = jdbc.sql("""
            select coalesce(sum(case when o.state = 'HELD' then 1 else 0 end), 0), count(*),
                coalesce(sum(x.open_gross), 0),
                   coalesce(sum(case when o.state = 'AWAITING_APPROVAL' then 1 else 0 end), 0)
            from open_order x join sales_order o on o.id = x.order_id where x.reviewable = true\
            """)
                .query((r, n) -> new ReviewPage(
                        withReasons(page.rows()),
                        page.next(),
                        r.getLong(1),
                        r.getLong(4),
                        r.getLong(2) - r.getLong(1) - r.getLong(4),
                        company.money(r.getBigDecimal(3)).amount(),
                        reasons()))
                .single();
        return totals;
    }

    private List<ReasonCount> reasons() {
        return jdbc
                .sql("""
                    select f.check_code, count(*) from open_order x join finding f on f.order_id = x.order_id
                    where x.reviewable = true and f.state = 'OPEN' group by f.check_code\
                    """)
                .query((r, n) -> new ReasonCount(
                        r.getString(1), Check.of(r.getString(1)).orElseThrow().title(), r.getLong(2)))
                .list()
                .stream()
                .sorted(Comparator.comparing(ReasonCount::orders).reversed().thenComparing(ReasonCount::check))
                .toList();
    }

    private record Keyed(long id, BigDecimal key, LocalDate requestedOn, ReviewRow row) {}

    private record Reason(long order, LocalDate since, ReasonView view) {}

    private List<ReviewRow> withReasons(List<Keyed> rows) {
        if (rows.isEmpty()) {
            return List.of();
        }
        var reasons = jdbc
                .sql("""
                    select order_id, since, check_code, severity, brief from finding
                    where order_id in (:ids) and state = 'OPEN'
                    order by order_id, case severity when 'STOP' then 0 else 1 end, id\
                    """)
                .param("ids", rows.stream().map(Keyed::id).toList())
                .query((r, n) -> new Reason(
                        r.getLong(1),
                        r.getObject(2, LocalDate.class),
                        new ReasonView(r.getString(3), r.getString(4), r.getString(5))))
                .list()
                .stream()
                .collect(Collectors.groupingBy(Reason::order));
        var waiting = clearance.waiting(rows.stream().map(Keyed::id).toList());
        return rows.stream()
                .map(k -> {
                    var own = new ArrayList<>(reasons.getOrDefault(k.id(), List.of()));
                    var row = k.row();
                    if (waiting.containsKey(k.id())) {
                        own.add(
                                0,
                                new Reason(
                                        k.id(),
                                        waiting.get(k.id()).since(),
                                        new ReasonView(
                                                "approval",
                                                "AWAITING",
                                                waiting.get(k.id()).brief())));
                    }
                    return new ReviewRow(
                            row.number(),
                            row.customer(),
                            row.customerName(),
                            row.state(),
                            row.gross(),
                            row.requestedOn(),
                            own.stream()
                                    .map(Reason::since)
                                    .min(LocalDate::compareTo)
                                    .orElse(null),
                            own.stream().map(Reason::view).toList());
                })
                .toList();
    }
}
