package app.euthyna.server.goods;

import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
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

/** Goods over HTTP. */
@RestController
@RequestMapping("/api")
class GoodsController {

    private final DocumentDetails details;
    private final GoodsService goods;
    /** Before and after everything. */
    private static final Pages.Key FIRST = new Pages.Key(List.of("0001-01-01", "0"));

    private static final Pages.Key LAST = new Pages.Key(List.of("9999-12-31", String.valueOf(Long.MAX_VALUE)));

    private final Commands commands;
    private final Batches batches;
    private final SimulatedCarrier desk;
    private final Company company;
    private final JdbcClient jdbc;

    GoodsController(
            GoodsService goods,
            Commands commands,
            Company company,
            JdbcClient jdbc,
            DocumentDetails details,
            Batches batches,
            SimulatedCarrier desk) {
        this.batches = batches;
        this.desk = desk;
        this.details = details;
        this.goods = goods;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
    }

    record StockReceipt(
            String site,
            @NotBlank String item,
            @NotNull BigDecimal quantity,
            @NotNull @PositiveOrZero BigDecimal unitCost,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record NumberView(String number) {}

    record PickedLine(int line, @NotNull BigDecimal quantity) {}

    /** What to stage of an order; without lines, all that is reserved. */
    record Staging(@NotBlank String order, @NotNull Long version, List<@Valid PickedLine> lines) {}

    record Seen(@NotNull Long version) {}

    record Departing(
            @NotNull Long version,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record DispatchLineView(
            int no,
            int orderLine,
            String item,
            String description,
            BigDecimal quantity,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal cost) {}

    record DispatchView(
            String number,
            String order,
            String customerName,
            String site,
            String state,
            LocalDate stagedOn,
            @Nullable LocalDate departedOn,
            @Nullable String carrier,
            @Nullable String carrierReference,
            @Nullable String carrierFailure,
            long version,
            List<GoodsService.Falls> fallsUnderMinimum,
            List<DocumentDetails.CarriedDetails> details,
            List<DispatchLineView> lines) {}

    record ShelfView(
            String item,
            String site,
            BigDecimal onHand,
            BigDecimal reserved,
            BigDecimal free,
            BigDecimal inspection,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal value) {}

    record ToStageRow(
            String order,
            String customerName,
            @Nullable @ReadBy(ReadBy.Group.SELLING) String po,
            LocalDate requestedOn,
            long lines,
            BigDecimal reserved,
            BigDecimal waiting,
            long version) {}

    record ToStagePage(List<ToStageRow> rows, @Nullable String next) {}

    /**
     * A note in the list.
     *
     * @param fallsUnderMinimum of a staged one, in words, what its departure brings under its minimum
     */
    record DispatchRow(
            String number,
            String order,
            String customerName,
            @Nullable @ReadBy(ReadBy.Group.SELLING) String po,
            String site,
            LocalDate on,
            LocalDate requestedOn,
            @Nullable String carrierReference,
            @Nullable String carrierFailure,
            List<String> fallsUnderMinimum,
            long lines,
            BigDecimal quantity,
            long version) {
        DispatchRow falling(List<String> falls) {
            return new DispatchRow(
                    number,
                    order,
                    customerName,
                    po,
                    site,
                    on,
                    requestedOn,
                    carrierReference,
                    carrierFailure,
                    falls,
                    lines,
                    quantity,
                    version);
        }
    }

    /** By note, what each of them alone brings under its minimum. */
    private Map<String, List<String>> falls(List<String> numbers) {
        var falls = new HashMap<String, List<String>>();
        jdbc.sql("""
            select t.number, i.code, h.on_hand - t.quantity, i.min_stock
            from (select d.number, d.site_id, l.item_id, sum(l.quantity) as quantity from dispatch d
                join dispatch_line l on l.dispatch_id = d.id where d.number in (:numbers)
                group by d.number, d.site_id, l.item_id) t
            join item i on i.id = t.item_id join shelf h on h.item_id = t.item_id and h.site_id = t.site_id
            where i.min_stock > 0 and h.on_hand - t.quantity < i.min_stock order by i.code\
            """)
                .param("numbers", numbers)
                .query((r, n) -> falls.computeIfAbsent(r.getString(1), note -> new ArrayList<>())
                        .add("%s falls to %s, under its minimum of %s"
                                .formatted(
                                        r.getString(2),
                                        new Quantity(r.getBigDecimal(3)),
                                        new Quantity(r.getBigDecimal(4)))))
                .list();
        return falls;
    }

    record DispatchPage(List<DispatchRow> rows, @Nullable String next) {}

    @Permissions.MoveGoods
    @PostMapping("/stock-receipts")
    NumberView receive(@Valid @RequestBody StockReceipt request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                NumberView.class,
                context -> new NumberView(goods.receive(
                        context.given(request.date(), request.reason()),
                        request.site(),
                        request.item(),
                        quantity("quantity", request.quantity()),
                        request.unitCost())));
    }

    /** What was counted on a shelf; the cost only where the books said that it was empty. */
    record Count(
            String site,
            @NotBlank String item,
            @NotNull @PositiveOrZero BigDecimal counted,
            @PositiveOrZero BigDecimal unitCost,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    @Permissions.MoveGoods
    @PostMapping("/stock-counts")
    NumberView count(@Valid @RequestBody Count request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                NumberView.class,
                context -> new NumberView(goods.count(
                        context.given(request.date(), request.reason()),
                        request.site(),
                        request.item(),
                        quantity("counted", request.counted()),
                        Optional.ofNullable(request.unitCost()))));
    }

    /** Reserved goods of one order line for another; {@code version} is that of the order that takes them. */
    record ReservationTransfer(
            @NotBlank String from,
            int fromLine,
            @NotBlank String to,
            int toLine,
            @NotNull Long version,
            @NotNull BigDecimal quantity,
            @Size(max = 2000) String reason) {}

    @Permissions.Decide
    @PostMapping("/reservation-transfers")
    List<ClaimView> transfer(@Valid @RequestBody ReservationTransfer request, HttpServletRequest http) {
        return List.of(commands.run(http, request, ClaimView[].class, context -> {
            goods.transfer(
                    context.because(Texts.given(request.reason())),
                    new LineRef(request.from(), request.fromLine()),
                    new LineRef(request.to(), request.toLine()),
                    request.version(),
                    quantity("quantity", request.quantity()));
            return claims("o.number = ? and k.line_no = ?", List.of(request.to(), request.toLine()))
                    .toArray(ClaimView[]::new);
        }));
    }

    /** An order line's place at a shelf: what it holds and what it waits for. */
    record ClaimView(
            String order,
            int line,
            String customerName,
            String site,
            LocalDate requestedOn,
            BigDecimal reserved,
            BigDecimal waiting,
            long version) {}

    /** Who holds an item and who waits for it, in the order in which they are served. */
    @GetMapping("/stock/{item}/queue")
    List<ClaimView> queue(@PathVariable String item) {
        return claims("i.code = ? and (k.reserved > 0 or k.waits = true)", List.of(item));
    }

    private List<ClaimView> claims(String which, List<?> parameters) {
        return jdbc.sql("select o.number, k.line_no, c.name, s.code, k.requested_on, k.reserved, k.waiting, o.version"
                        + " from stock_claim k join sales_order o on o.id = k.order_id join customer c on c.id ="
                        + " o.customer_id join site s on s.id = k.site_id join item i on i.id = k.item_id where "
                        + which
                        + " order by k.site_id, k.requested_on, k.clearing, k.order_id, k.line_no fetch first"
                        + " 300 rows only")
                .params(parameters)
                .query((r, n) -> new ClaimView(
                        r.getString(1),
                        r.getInt(2),
                        r.getString(3),
                        r.getString(4),
                        r.getObject(5, LocalDate.class),
                        new Quantity(r.getBigDecimal(6)).value(),
                        new Quantity(r.getBigDecimal(7)).value(),
                        r.getLong(8)))
                .list();
    }

    record Booking(
            @NotNull Long version, @NotBlank @Size(max = 60) String carrier) {}

    /**
     * Has a note booked with a carrier. The desk is simulated, and can be silent: the note says so, and can be booked
     * again.
     */
    @Permissions.MoveGoods
    @PostMapping("/dispatches/{number}/carrier")
    DispatchView book(@PathVariable String number, @Valid @RequestBody Booking request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            goods.book(context, number, request.version(), request.carrier().strip());
            return dispatch(number);
        });
    }

    record CarrierAnswers(boolean answers) {}

    /** Tells the simulated carrier's desk to answer, or not to. */
    @Permissions.KeepMasterData
    @PutMapping("/simulated-carrier")
    CarrierAnswers answers(@Valid @RequestBody CarrierAnswers request, HttpServletRequest http) {
        return commands.run(http, request, CarrierAnswers.class, context -> {
            desk.set(request.answers());
            return request;
        });
    }

    /** One of many orders to stage. */
    record StagedOne(@NotBlank String order, @NotNull Long version, GoodsService.ShortageChoice whenShort) {}

    record StagingBatch(
            @NotEmpty @Size(max = 500) List<@Valid StagedOne> orders,
            @Size(max = 2000) String reason) {}

    /** One of many notes to send off. */
    record SentOne(@NotBlank String dispatch, @NotNull Long version) {}

    record DepartureBatch(
            @NotEmpty @Size(max = 500) List<@Valid SentOne> dispatches,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** Stages many orders, each on its own; the answer is the log, which goes on where it is long. */
    @Permissions.MoveGoods
    @PostMapping("/batches/stagings")
    Batches.BatchView stageMany(@Valid @RequestBody StagingBatch request, HttpServletRequest http) {
        return batches.carryOut(commands.run(
                http,
                request,
                Long.class,
                context -> batches.begin(
                        context.because(Texts.given(request.reason())),
                        Batches.Kind.STAGING,
                        request.orders().stream()
                                .map(one -> new Batches.Asked(DocumentKind.ORDER, one.order(), one))
                                .toList())));
    }

    @Permissions.MoveGoods
    @PostMapping("/batches/departures")
    Batches.BatchView departMany(@Valid @RequestBody DepartureBatch request, HttpServletRequest http) {
        return batches.carryOut(commands.run(
                http,
                request,
                Long.class,
                context -> batches.begin(
                        context.given(request.date(), request.reason()),
                        Batches.Kind.DEPARTURE,
                        request.dispatches().stream()
                                .map(one -> new Batches.Asked(DocumentKind.DISPATCH, one.dispatch(), one))
                                .toList())));
    }

    private static Quantity quantity(String field, BigDecimal given) {
        if (given.stripTrailingZeros().scale() > Quantity.DECIMALS || given.precision() - given.scale() > 12) {
            throw new RefusedException(CommonRefusal.Incomplete.of(field, "a quantity with at most 3 decimals"));
        }
        return new Quantity(given);
    }

    @Permissions.MoveGoods
    @PostMapping("/dispatches")
    DispatchView stage(@Valid @RequestBody Staging request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            var picks = request.lines() == null
                    ? List.<Pick>of()
                    : request.lines().stream()
                            .map(l -> new Pick(l.line(), quantity("lines[" + l.line() + "].quantity", l.quantity())))
                            .toList();
            return dispatch(goods.stage(context, request.order(), request.version(), picks));
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/dispatches/{number}/departure")
    DispatchView depart(@PathVariable String number, @Valid @RequestBody Departing request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            goods.depart(context.given(request.date(), request.reason()), number, request.version());
            return dispatch(number);
        });
    }

    @Permissions.MoveGoods
    @PostMapping("/dispatches/{number}/voiding")
    DispatchView voidStaged(@PathVariable String number, @Valid @RequestBody Seen request, HttpServletRequest http) {
        return commands.run(http, request, DispatchView.class, context -> {
            goods.voidStaged(context, number, request.version());
            return dispatch(number);
        });
    }

    @GetMapping("/dispatches/{number}")
    DispatchView dispatch(@PathVariable String number) {
        var lines = jdbc.sql("""
            select l.line_no, l.order_line_no, i.code, i.name, l.quantity, l.cost from dispatch d
            join dispatch_line l on l.dispatch_id = d.id join item i on i.id = l.item_id where d.number = ?
            order by l.line_no\
            """)
                .param(number)
                .query((r, n) -> new DispatchLineView(
                        r.getInt(1),
                        r.getInt(2),
                        r.getString(3),
                        r.getString(4),
                        new Quantity(r.getBigDecimal(5)).value(),
                        company.money(r.getBigDecimal(6)).amount()))
                .list();
        return jdbc.sql("""
            select d.number, o.number, c.name, s.name, d.state, d.staged_on, d.departed_on, d.version, d.carrier,
                d.carrier_reference, d.carrier_failure from dispatch d
            join sales_order o on o.id = d.order_id join customer c on c.id = o.customer_id
            join site s on s.id = d.site_id
            where d.number = ?\
            """)
                .param(number)
                .query((r, n) -> new DispatchView(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5),
                        r.getObject(6, LocalDate.class),
                        r.getObject(7, LocalDate.class),
                        r.getString(9),
                        r.getString(10),
                        r.getString(11),
                        r.getLong(8),
                        goods.falls(number),
                        details.of("DISPATCH", number),
                        lines))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("dispatch", number)));
    }

    @GetMapping("/stock/{item}")
    List<ShelfView> stock(@PathVariable String item) {
        return jdbc.sql("""
            select i.code, s.code, h.on_hand, h.reserved, h.stock_value,
                coalesce((select sum(p.quantity - coalesce((select sum(o.quantity) from return_outcome o
                where o.part_id = p.id), 0)) from return_line l join return_part p on p.return_line_id = l.id
                where l.item_id = h.item_id and l.site_id = h.site_id), 0)
            from shelf h join item i on i.id = h.item_id join site s on s.id = h.site_id where i.code = ?
            order by s.id\
            """)
                .param(item)
                .query((r, n) -> {
                    var onHand = new Quantity(r.getBigDecimal(3));
                    var reserved = new Quantity(r.getBigDecimal(4));
                    return new ShelfView(
                            r.getString(1),
                            r.getString(2),
                            onHand.value(),
                            reserved.value(),
                            onHand.minus(reserved).value(),
                            new Quantity(r.getBigDecimal(6)).value(),
                            company.money(r.getBigDecimal(5)).amount());
                })
                .list();
    }

    /** Cleared orders with reserved goods, by requested date. */
    @GetMapping("/goods/to-stage")
    ToStagePage toStage(@RequestParam(required = false) String after) {
        var key = after == null ? FIRST : Pages.key(after);
        var rows = jdbc.sql("""
            select o.id, o.number, c.name, o.po, x.requested_on, o.version,
                   (select count(*) from stock_claim k where k.order_id = o.id and k.reserved > 0),
                   (select coalesce(sum(k.reserved), 0) from stock_claim k where k.order_id = o.id),
                   (select coalesce(sum(k.waiting), 0) from stock_claim k where k.order_id = o.id)
            from open_order x join sales_order o on o.id = x.order_id join customer c on c.id = x.customer_id
            where x.stageable = true and (x.requested_on > ? or (x.requested_on = ? and x.order_id > ?))
            order by x.stageable, x.requested_on, x.order_id fetch first 101 rows only\
            """)
                .params(key.date(0), key.date(0), key.number(1))
                .query((r, n) -> new Keyed<>(
                        r.getLong(1),
                        r.getObject(5, LocalDate.class),
                        new ToStageRow(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getObject(5, LocalDate.class),
                                r.getLong(7),
                                new Quantity(r.getBigDecimal(8)).value(),
                                new Quantity(r.getBigDecimal(9)).value(),
                                r.getLong(6))))
                .list();
        var page = Pages.of(rows, Keyed::cursor);
        return new ToStagePage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    /** Dispatch notes that are staged or have departed: staged oldest first, departed newest first. */
    @GetMapping("/goods/dispatches")
    DispatchPage dispatches(
            @RequestParam(defaultValue = "false") boolean departed, @RequestParam(required = false) String after) {
        var key = after != null ? Pages.key(after) : departed ? LAST : FIRST;
        var than = departed ? "<" : ">";
        var direction = departed ? " desc" : "";
        var rows = jdbc.sql("""
            select d.id, d.number, o.number, c.name, o.po, s.name, d.staged_on, d.departed_on, o.requested_on,
                d.version, d.carrier_reference, d.carrier_failure,
                   (select count(*) from dispatch_line l where l.dispatch_id = d.id),
                   (select coalesce(sum(l.quantity), 0) from dispatch_line l where l.dispatch_id = d.id)
            from dispatch d join sales_order o on o.id = d.order_id join customer c on c.id = o.customer_id
            join site s on s.id = d.site_id
            where d.state = ? and (d.staged_on THAN ? or (d.staged_on = ? and d.id THAN ?))
            order by d.state DIRECTION, d.staged_on DIRECTION, d.id DIRECTION fetch first 101 rows only\
            """.replace("THAN", than).replace(" DIRECTION", direction))
                .params(departed ? "DEPARTED" : "STAGED", key.date(0), key.date(0), key.number(1))
                .query((r, n) -> new Keyed<>(
                        r.getLong(1),
                        r.getObject(7, LocalDate.class),
                        new DispatchRow(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getString(6),
                                r.getObject(departed ? 8 : 7, LocalDate.class),
                                r.getObject(9, LocalDate.class),
                                r.getString(11),
                                r.getString(12),
                                List.of(),
                                r.getLong(13),
                                new Quantity(r.getBigDecimal(14)).value(),
                                r.getLong(10))))
                .list();
        var page = Pages.of(rows, Keyed::cursor);
        var falls = departed || page.rows().isEmpty()
                ? Map.<String, List<String>>of()
                : falls(page.rows().stream().map(keyed -> keyed.row().number()).toList());
        return new DispatchPage(
                page.rows().stream()
                        .map(Keyed::row)
                        .map(row -> falls.containsKey(row.number()) ? row.falling(falls.get(row.number())) : row)
                        .toList(),
                page.next());
    }

    private record Keyed<T>(long id, LocalDate date, T row) {
        List<String> cursor() {
            return List.of(date.toString(), String.valueOf(id));
        }
    }
}
