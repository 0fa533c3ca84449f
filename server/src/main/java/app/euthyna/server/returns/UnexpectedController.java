package app.euthyna.server.returns;

import app.euthyna.core.returns.Returning.OfDispatch;
import app.euthyna.core.returns.Unexpected;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Many;
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
    private final UnexpectedQueries queries;

    UnexpectedController(UnexpectedService unexpected, Commands commands, UnexpectedQueries queries) {
        this.unexpected = unexpected;
        this.commands = commands;
        this.queries = queries;
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
        return views(queries.numbered(number)).stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("unexpected goods", number)));
    }

    /** What waits for a decision, the oldest first; or all, the newest first. */
    @GetMapping
    UnexpectedPage list(
            @RequestParam(defaultValue = "true") boolean waiting, @RequestParam(required = false) String after) {
        var key = after == null ? null : Pages.key(after).number(0);
        var page =
                Pages.of(waiting ? queries.waiting(key) : queries.page(key), row -> List.of(String.valueOf(row.id())));
        return new UnexpectedPage(views(page.rows()), page.next());
    }

    private List<UnexpectedView> views(List<UnexpectedQueries.GoodsRow> rows) {
        var today = commands.context().date();
        var decisions =
                decisions(rows.stream().map(UnexpectedQueries.GoodsRow::id).toList());
        return rows.stream()
                .map(row -> new UnexpectedView(
                        row.number(),
                        row.customer(),
                        row.customerName(),
                        row.sender(),
                        row.goodsReturn(),
                        row.item(),
                        row.itemName(),
                        new Quantity(row.quantity()).value(),
                        new Quantity(row.leftOver()).value(),
                        row.site(),
                        row.cameOn(),
                        ChronoUnit.DAYS.between(row.cameOn(), today),
                        row.takenBy(),
                        row.remark(),
                        row.version(),
                        decisions.getOrDefault(row.id(), List.of())))
                .toList();
    }

    private Map<Long, List<UnexpectedDecision>> decisions(List<Long> goods) {
        var decisions = new HashMap<Long, List<UnexpectedDecision>>();
        if (!goods.isEmpty()) {
            queries.decisions(Many.ids(goods))
                    .forEach(row -> decisions
                            .computeIfAbsent(row.goodsId(), id -> new ArrayList<>())
                            .add(new UnexpectedDecision(
                                    row.kind(),
                                    new Quantity(row.quantity()).value(),
                                    row.decidedOn(),
                                    row.decidedBy(),
                                    row.reason(),
                                    row.goodsReturn())));
        }
        return decisions;
    }
}
