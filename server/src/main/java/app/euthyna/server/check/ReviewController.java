package app.euthyna.server.check;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.check.Check;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Evidence;
import app.euthyna.core.check.Finding;
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
import app.euthyna.server.order.WrittenDetails;
import app.euthyna.server.order.WrittenLine;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
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
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
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
    private final ReviewList list;
    private final ReviewQueries queries;
    private final Clock clock;
    private final Clearance clearance;

    ReviewController(
            ReviewList list,
            CheckService checks,
            OrderService orders,
            ChainReader chains,
            FindingStore findings,
            CheckContextReader checkContexts,
            MasterData masterData,
            Commands commands,
            Company company,
            ReviewQueries queries,
            Clock clock,
            Clearance clearance) {
        this.list = list;
        this.clearance = clearance;
        this.checks = checks;
        this.orders = orders;
        this.chains = chains;
        this.findings = findings;
        this.checkContexts = checkContexts;
        this.masterData = masterData;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
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
        documents.addAll(queries.dispatches(order).stream()
                .map(row -> new DocumentView(
                        "DISPATCH", row.number(), row.state().name(), row.departedOn(), null, row.version()))
                .toList());
        documents.addAll(queries.invoices(order).stream()
                .map(row -> new DocumentView(
                        "INVOICE",
                        row.number(),
                        OpenInvoice.state(company.money(row.gross()), company.money(row.openAmount()), row.reversed())
                                .name(),
                        row.invoicedOn(),
                        company.money(row.gross()).amount(),
                        row.version()))
                .toList());
        documents.addAll(queries.returns(order).stream()
                .map(row ->
                        new DocumentView("RETURN", row.number(), row.state(), row.authorisedOn(), null, row.version()))
                .toList());
        documents.addAll(queries.creditNotes(order).stream()
                .map(row -> new DocumentView(
                        "CREDIT_NOTE",
                        row.number(),
                        "POSTED",
                        row.creditedOn(),
                        company.money(row.gross()).amount(),
                        row.version()))
                .toList());
        return documents;
    }

    private List<HistoryView> history(String order) {
        return queries.history(order).stream()
                .map(row -> new HistoryView(
                        row.happenedOn(), row.byUser(), row.documentKind(), row.documentNumber(), row.sentence()))
                .toList();
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
        var rows = list.page(sort, only, reason, after == null ? null : Pages.key(after), LocalDate.now(clock));
        var page = Pages.of(
                rows,
                row -> List.of(
                        row.priority().toPlainString(), row.requestedOn().toString(), String.valueOf(row.order())));
        var totals = queries.totals();
        return new ReviewPage(
                withReasons(page.rows()),
                page.next(),
                totals.held(),
                totals.awaiting(),
                totals.count() - totals.held() - totals.awaiting(),
                company.money(totals.openGross()).amount(),
                reasons());
    }

    private List<ReasonCount> reasons() {
        return queries.reasons().stream()
                .map(row -> new ReasonCount(
                        row.checkCode(), Check.of(row.checkCode()).orElseThrow().title(), row.count()))
                .sorted(Comparator.comparing(ReasonCount::orders).reversed().thenComparing(ReasonCount::check))
                .toList();
    }

    private record Reason(long order, LocalDate since, ReasonView view) {}

    private List<ReviewRow> withReasons(List<ReviewList.Row> rows) {
        if (rows.isEmpty()) {
            return List.of();
        }
        var orders = rows.stream().map(ReviewList.Row::order).toList();
        var reasons = queries.reasonsOf(Many.ids(orders)).stream()
                .map(row -> new Reason(
                        row.orderId(), row.since(), new ReasonView(row.checkCode(), row.severity(), row.brief())))
                .collect(Collectors.groupingBy(Reason::order));
        var waiting = clearance.waiting(orders);
        return rows.stream()
                .map(row -> {
                    var own = new ArrayList<>(reasons.getOrDefault(row.order(), List.of()));
                    if (waiting.containsKey(row.order())) {
                        own.add(
                                0,
                                new Reason(
                                        row.order(),
                                        waiting.get(row.order()).since(),
                                        new ReasonView(
                                                "approval",
                                                "AWAITING",
                                                waiting.get(row.order()).brief())));
                    }
                    return new ReviewRow(
                            row.number(),
                            row.customer(),
                            row.customerName(),
                            row.state().name(),
                            company.money(row.openGross()).amount(),
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
