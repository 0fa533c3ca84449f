package app.euthyna.server.order;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Outline;
import app.euthyna.core.order.Rhythm;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.May;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Digits;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Positive;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Quotes, blanket orders and recurring orders: what orders are made from. */
@RestController
@RequestMapping("/api/outlines")
class OutlineController {

    private final Outlines outlines;
    private final OutlineStore store;
    private final MasterData masterData;
    private final Company company;
    private final Commands commands;
    private final JdbcClient jdbc;
    private final Clock clock;

    OutlineController(
            Outlines outlines,
            OutlineStore store,
            MasterData masterData,
            Company company,
            Commands commands,
            JdbcClient jdbc,
            Clock clock) {
        this.outlines = outlines;
        this.store = store;
        this.masterData = masterData;
        this.company = company;
        this.commands = commands;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** A quantity of a line to be called off on a day. */
    record WrittenCall(
            @NotNull LocalDate on,
            @NotNull Integer line,

            @NotNull @Positive @Digits(integer = 12, fraction = 3)
            BigDecimal quantity) {}

    /**
     * What is written of a quote, a blanket order or a recurring order.
     *
     * @param ceiling net that the call-offs of a blanket order may come to together
     * @param every a recurring order comes due every so many units
     */
    record WrittenOutline(
            @NotBlank String customer,
            @Size(max = 120) String po,
            @NotNull LocalDate from,
            @NotNull LocalDate until,
            @PositiveOrZero BigDecimal ceiling,
            @Min(1) @Max(366) Integer every,
            Rhythm.Unit unit,
            @Size(max = 2000) String remark,
            @Valid WrittenDetails details,
            @NotEmpty @Size(max = 500) List<@Valid WrittenLine> lines,
            @Size(max = 500) List<@Valid WrittenCall> schedule) {}

    record NewOutline(
            @NotNull Outline.Kind kind, @NotNull @Valid WrittenOutline content, LocalDate date) {}

    record ChangedOutline(
            @NotNull Long version, @NotNull @Valid WrittenOutline content, LocalDate date) {}

    record ClosedOutline(
            @NotNull Long version, @Size(max = 2000) String reason, LocalDate date) {}

    record SkippedDue(@NotNull Long version, LocalDate date) {}

    record TakenLine(
            @NotNull Integer line,
            @NotNull @Digits(integer = 12, fraction = 3) BigDecimal quantity) {}

    /**
     * An order to be made.
     *
     * @param lines left out for all of a quote or a recurring order, and for what is due of a blanket order
     * @param po left out for the one it was agreed under
     * @param handIn otherwise the order stays a draft
     */
    record MadeOrder(
            @NotNull Long version,
            @Size(max = 500) List<@Valid TakenLine> lines,
            @Size(max = 120) String po,
            Boolean handIn,
            LocalDate date) {}

    /** A row of a list; {@code due} says that an order of it is due today. */
    record OutlineRow(
            String number,
            Outline.Kind kind,
            Outline.State state,
            boolean expired,
            String customer,
            String customerName,
            String po,
            LocalDate from,
            LocalDate until,
            BigDecimal net,
            LocalDate nextDue,
            boolean due) {}

    record OutlinePage(List<OutlineRow> rows, @Nullable String next) {}

    /** A line with what orders took of it. */
    record OutlineLineView(
            int no,
            String item,
            String description,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            BigDecimal net,
            BigDecimal taken,
            BigDecimal left) {}

    /** A call of the schedule; {@code order} is what it became. */
    record CallView(
            LocalDate on,
            int line,
            BigDecimal quantity,
            @Nullable String order) {}

    record MadeView(String number, OrderState state, LocalDate on, BigDecimal net) {}

    record OutlineChangeView(LocalDate on, String by, String sentence) {}

    record OutlineView(
            String number,
            Outline.Kind kind,
            Outline.State state,
            boolean expired,
            String customer,
            String customerName,
            String po,
            LocalDate from,
            LocalDate until,
            @Nullable BigDecimal ceiling,
            @Nullable BigDecimal leftInValue,
            @Nullable Integer every,
            @Nullable Rhythm.Unit unit,
            @Nullable String rhythm,
            int made,
            @Nullable LocalDate nextDue,
            boolean due,
            String remark,
            OrderView.DetailsView details,
            String author,
            LocalDate writtenOn,
            BigDecimal net,
            List<OutlineLineView> lines,
            List<CallView> schedule,
            List<MadeView> orders,
            List<OutlineChangeView> changes,
            long version) {}

    /** By kind, the newest first; {@code due} only those of which an order is due today. */
    @GetMapping
    OutlinePage list(
            @RequestParam(required = false) Outline.Kind kind,
            @RequestParam(required = false) Outline.State state,
            @RequestParam(required = false) String customer,
            @RequestParam(defaultValue = "false") boolean due,
            @RequestParam(required = false) String after) {
        var today = LocalDate.now(clock);
        var where = new StringBuilder("1 = 1");
        var parameters = new HashMap<String, Object>();
        if (kind != null) {
            where.append(" and q.kind = :kind");
            parameters.put("kind", kind.name());
        }
        if (state != null) {
            where.append(" and q.state = :state");
            parameters.put("state", state.name());
        }
        if (customer != null) {
            where.append(" and c.code = :customer");
            parameters.put("customer", customer);
        }
        if (due) {
            where.append(" and q.state = 'OPEN' and q.next_due <= :today");
            parameters.put("today", today);
        }
        if (after != null) {
            where.append(" and q.id < :id");
            parameters.put("id", Pages.key(after).number(0));
        }
        record Keyed(long id, OutlineRow row) {}
        var rows = jdbc.sql("select q.*, c.code, c.name from outline q join customer c on c.id = q.customer_id where "
                        + where + " order by q.id desc fetch first " + (Pages.SIZE + 1) + " rows only")
                .params(parameters)
                .query((r, n) -> {
                    var open = r.getString("state").equals("OPEN");
                    var until = r.getObject("valid_until", LocalDate.class);
                    var next = r.getObject("next_due", LocalDate.class);
                    return new Keyed(
                            r.getLong("id"),
                            new OutlineRow(
                                    r.getString("number"),
                                    Outline.Kind.valueOf(r.getString("kind")),
                                    Outline.State.valueOf(r.getString("state")),
                                    open && until.isBefore(today),
                                    r.getString("code"),
                                    r.getString("name"),
                                    r.getString("po"),
                                    r.getObject("valid_from", LocalDate.class),
                                    until,
                                    company.money(r.getBigDecimal("net")).amount(),
                                    next,
                                    open && next != null && !next.isAfter(today)));
                })
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new OutlinePage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    @GetMapping("/{number}")
    OutlineView outline(@PathVariable String number) {
        var kept = store.find(number);
        var o = kept.outline();
        var today = LocalDate.now(clock);
        var taken = store.taken(kept.id(), "");
        var lines = o.lines().stream()
                .map(l -> new OutlineLineView(
                        l.no(),
                        l.item(),
                        l.description(),
                        l.quantity().value(),
                        l.price().unit(),
                        l.price().discountPercent(),
                        l.price().net(l.quantity(), o.currency()).amount(),
                        taken.quantities().getOrDefault(l.no(), Quantity.ZERO).value(),
                        o.left(l, taken).value()))
                .toList();
        var schedule = jdbc.sql(
                        "select k.due_on, k.line_no, k.quantity, o.number from outline_call k left join sales_order o"
                                + " on o.id = k.order_id where k.outline_id = ? order by k.due_on, k.line_no")
                .param(kept.id())
                .query((r, n) ->
                        new CallView(r.getObject(1, LocalDate.class), r.getInt(2), r.getBigDecimal(3), r.getString(4)))
                .list();
        var made = jdbc.sql(
                        "select number, state, ordered_on, net from sales_order where outline_id = ? order by id desc"
                                + " fetch first 200 rows only")
                .param(kept.id())
                .query((r, n) -> new MadeView(
                        r.getString(1),
                        OrderState.valueOf(r.getString(2)),
                        r.getObject(3, LocalDate.class),
                        company.money(r.getBigDecimal(4)).amount()))
                .list();
        var changes = jdbc.sql(
                        "select changed_on, changed_by, sentence from outline_change where outline_id = ? order by id"
                                + " desc fetch first 200 rows only")
                .param(kept.id())
                .query((r, n) -> new OutlineChangeView(r.getObject(1, LocalDate.class), r.getString(2), r.getString(3)))
                .list();
        var isOpen = o.state() == Outline.State.OPEN;
        return new OutlineView(
                number,
                o.kind(),
                o.state(),
                isOpen && o.until().isBefore(today),
                o.customer(),
                masterData.customer(o.customer()).name(),
                kept.po(),
                o.from(),
                o.until(),
                o.ceiling().map(Money::amount).orElse(null),
                o.left(taken).map(Money::amount).orElse(null),
                o.rhythm().map(Rhythm::every).orElse(null),
                o.rhythm().map(Rhythm::unit).orElse(null),
                o.rhythm().map(Rhythm::words).orElse(null),
                o.made(),
                o.dueNext().orElse(null),
                o.isDue(today),
                kept.remark(),
                OrderView.DetailsView.of(OrderEntity.details(kept.details())),
                kept.author(),
                kept.writtenOn(),
                o.net().amount(),
                lines,
                schedule,
                made,
                changes,
                kept.version());
    }

    @May.Enter
    @PostMapping
    OutlineView write(@Valid @RequestBody NewOutline request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                OutlineView.class,
                context -> outline(
                        outlines.write(context.on(request.date()), request.kind(), written(request.content()))));
    }

    @May.Enter
    @PutMapping("/{number}")
    OutlineView change(
            @PathVariable String number, @Valid @RequestBody ChangedOutline request, HttpServletRequest http) {
        return commands.run(http, request, OutlineView.class, context -> {
            outlines.change(context.on(request.date()), number, request.version(), written(request.content()));
            return outline(number);
        });
    }

    /** A quote is lost, a blanket or recurring order ends; either with a reason. */
    @May.Enter
    @PostMapping("/{number}/closing")
    OutlineView close(@PathVariable String number, @Valid @RequestBody ClosedOutline request, HttpServletRequest http) {
        return commands.run(http, request, OutlineView.class, context -> {
            outlines.close(context.on(request.date()).because(request.reason()), number, request.version());
            return outline(number);
        });
    }

    /** Passes over a recurring order that is due. */
    @May.Enter
    @PostMapping("/{number}/skips")
    OutlineView skip(@PathVariable String number, @Valid @RequestBody SkippedDue request, HttpServletRequest http) {
        return commands.run(http, request, OutlineView.class, context -> {
            outlines.skip(context.on(request.date()), number, request.version());
            return outline(number);
        });
    }

    @May.Enter
    @PostMapping("/{number}/orders")
    OrderView make(@PathVariable String number, @Valid @RequestBody MadeOrder request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                OrderView.class,
                context -> outlines.make(
                        context.on(request.date()),
                        number,
                        request.version(),
                        asked(request.lines()),
                        request.po(),
                        Boolean.TRUE.equals(request.handIn())));
    }

    private static Map<Integer, Quantity> asked(List<TakenLine> lines) {
        var asked = new HashMap<Integer, Quantity>();
        if (lines != null) {
            for (var line : lines) {
                if (line.quantity().signum() < 0) {
                    throw new RefusedException(CommonRefusal.Incomplete.of(
                            "lines[" + line.line() + "].quantity", "a quantity above zero"));
                }
                asked.merge(line.line(), new Quantity(line.quantity()), Quantity::plus);
            }
            if (asked.isEmpty()) {
                throw new RefusedException(CommonRefusal.Incomplete.of("lines", "at least one line"));
            }
        }
        return asked;
    }

    private Outlines.Written written(WrittenOutline content) {
        var rhythm = content.every() == null || content.unit() == null
                ? Optional.<Rhythm>empty()
                : Optional.of(new Rhythm(content.every(), content.unit()));
        return new Outlines.Written(
                new OrderDraft(
                        content.customer(),
                        content.po(),
                        null,
                        null,
                        null,
                        null,
                        content.remark(),
                        null,
                        content.details() == null ? null : content.details().core(),
                        content.lines().stream().map(WrittenLine::line).toList()),
                content.from(),
                content.until(),
                Optional.ofNullable(content.ceiling()).map(c -> company.given("ceiling", c)),
                rhythm,
                content.schedule() == null
                        ? List.of()
                        : content.schedule().stream()
                                .map(c -> new Outline.Call(c.on(), c.line(), new Quantity(c.quantity())))
                                .toList());
    }
}
