package app.euthyna.server.returns;

import app.euthyna.core.returns.Returning.OfDispatch;
import app.euthyna.core.returns.Unexpected;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Quantities;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Goods that no return expects, over HTTP. */
@RestController
@RequestMapping("/api/unexpected-goods")
class UnexpectedController {

    private final UnexpectedService unexpected;
    private final Commands commands;
    private final JdbcClient jdbc;

    UnexpectedController(UnexpectedService unexpected, Commands commands, JdbcClient jdbc) {
        this.unexpected = unexpected;
        this.commands = commands;
        this.jdbc = jdbc;
    }

    /**
     * What came: from a customer or, where that is not known, from whom the label names; perhaps with a return, in
     * place of what was expected.
     */
    record CameUnexpected(
            @Size(max = 40) String customer,
            @Size(max = 200) String sender,
            @Size(max = 40) String ofReturn,
            @NotBlank @Size(max = 40) String item,
            @NotNull BigDecimal quantity,
            @Size(max = 40) String site,
            @Size(max = 2000) String remark,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record AdmittedShare(
            @NotBlank String dispatch, int line, @NotNull BigDecimal quantity) {}

    /** The dispatch lines on which the goods had left. */
    record Admission(
            @NotNull Long version,
            @NotEmpty @Size(max = 100) List<@Valid AdmittedShare> lines,
            @NotBlank @Size(max = 60) String returnReason,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    record TurnedAway(
            @NotNull Long version,
            @NotNull Unexpected.Away away,
            @NotNull BigDecimal quantity,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    /** @param kind ADMITTED, SENT_BACK or SCRAPPED */
    record UnexpectedDecision(
            String kind,
            BigDecimal quantity,
            LocalDate on,
            String by,
            String reason,
            @Nullable String returnNumber) {}

    /** @param left what nobody has decided on */
    record UnexpectedView(
            String number,
            @Nullable String customer,
            @Nullable String customerName,
            String sender,
            @Nullable String ofReturn,
            String item,
            String itemName,
            BigDecimal quantity,
            BigDecimal left,
            String site,
            LocalDate on,
            long days,
            String by,
            String remark,
            long version,
            List<UnexpectedDecision> decisions) {

        UnexpectedView with(List<UnexpectedDecision> made) {
            return new UnexpectedView(
                    number,
                    customer,
                    customerName,
                    sender,
                    ofReturn,
                    item,
                    itemName,
                    quantity,
                    left,
                    site,
                    on,
                    days,
                    by,
                    remark,
                    version,
                    made);
        }
    }

    record UnexpectedPage(
            List<UnexpectedView> rows, @Nullable String next) {}

    private record Keyed(long id, UnexpectedView row) {}

    @Permissions.MoveGoods
    @PostMapping
    UnexpectedView takeIn(@Valid @RequestBody CameUnexpected request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                UnexpectedView.class,
                context -> view(unexpected.takeIn(
                        context.given(request.date(), request.reason()),
                        new UnexpectedService.Came(
                                Optional.ofNullable(request.customer()).filter(code -> !code.isBlank()),
                                Texts.given(request.sender()),
                                Texts.given(request.ofReturn()),
                                request.item().strip(),
                                Quantities.given("quantity", request.quantity()),
                                Texts.given(request.site()),
                                Texts.given(request.remark())))));
    }

    @Permissions.Propose
    @PostMapping("/{number}/admissions")
    UnexpectedView admit(@PathVariable String number, @Valid @RequestBody Admission request, HttpServletRequest http) {
        return commands.run(http, request, UnexpectedView.class, context -> {
            unexpected.admit(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    request.lines().stream()
                            .map(l -> new OfDispatch(
                                    new LineRef(l.dispatch(), l.line()), Quantities.given("quantity", l.quantity())))
                            .toList(),
                    request.returnReason());
            return view(number);
        });
    }

    @Permissions.Propose
    @PostMapping("/{number}/turnings-away")
    UnexpectedView turnAway(
            @PathVariable String number, @Valid @RequestBody TurnedAway request, HttpServletRequest http) {
        return commands.run(http, request, UnexpectedView.class, context -> {
            unexpected.turnAway(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    request.away(),
                    Quantities.given("quantity", request.quantity()));
            return view(number);
        });
    }

    @GetMapping("/{number}")
    UnexpectedView view(@PathVariable String number) {
        return found("u.number = ?", List.of(number)).stream()
                .map(Keyed::row)
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("unexpected goods", number)));
    }

    /** What waits for a decision, the oldest first; or all, the newest first. */
    @GetMapping
    UnexpectedPage list(
            @RequestParam(defaultValue = "true") boolean waiting, @RequestParam(required = false) String after) {
        var from =
                after == null ? waiting ? 0 : Long.MAX_VALUE : Pages.key(after).number(0);
        var page = Pages.of(
                found(
                        waiting ? "u.left_over > 0 and u.id > ? order by u.id" : "u.id < ? order by u.id desc",
                        List.of(from)),
                row -> List.of(String.valueOf(row.id())));
        return new UnexpectedPage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    private List<Keyed> found(String which, List<?> parameters) {
        var today = commands.context().date();
        var rows = jdbc.sql("select u.id, u.number, c.code, c.name, u.sender, g.number, i.code, i.name, u.quantity,"
                        + " u.left_over, s.code, u.came_on, u.taken_by, u.remark, u.version from unexpected_goods"
                        + " u left join customer c on c.id = u.customer_id left join goods_return g on g.id ="
                        + " u.return_id join item i on i.id = u.item_id"
                        + " join"
                        + " site s"
                        + " on s.id"
                        + " = u.site_id"
                        + " where"
                        + " " + which + " fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> new Keyed(
                        r.getLong(1),
                        new UnexpectedView(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getString(6),
                                r.getString(7),
                                r.getString(8),
                                new Quantity(r.getBigDecimal(9)).value(),
                                new Quantity(r.getBigDecimal(10)).value(),
                                r.getString(11),
                                r.getObject(12, LocalDate.class),
                                ChronoUnit.DAYS.between(r.getObject(12, LocalDate.class), today),
                                r.getString(13),
                                r.getString(14),
                                r.getLong(15),
                                List.of())))
                .list();
        var decisions = decisions(rows.stream().map(Keyed::id).toList());
        return rows.stream()
                .map(row -> new Keyed(row.id(), row.row().with(decisions.getOrDefault(row.id(), List.of()))))
                .toList();
    }

    private Map<Long, List<UnexpectedDecision>> decisions(List<Long> goods) {
        var decisions = new HashMap<Long, List<UnexpectedDecision>>();
        if (!goods.isEmpty()) {
            jdbc.sql("select d.goods_id, d.kind, d.quantity, d.decided_on, d.decided_by, d.reason, g.number"
                            + " from unexpected_decision d left join goods_return g on g.id = d.return_id where"
                            + " d.goods_id in (:goods) order by d.id")
                    .param("goods", goods)
                    .query((r, n) -> decisions
                            .computeIfAbsent(r.getLong(1), id -> new ArrayList<>())
                            .add(new UnexpectedDecision(
                                    r.getString(2),
                                    new Quantity(r.getBigDecimal(3)).value(),
                                    r.getObject(4, LocalDate.class),
                                    r.getString(5),
                                    r.getString(6),
                                    r.getString(7))))
                    .list();
        }
        return decisions;
    }
}
