package app.euthyna.server.order;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Recurrence;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
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
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
@RequestMapping("/api/sales-agreements")
class SalesAgreementController {

    private final SalesAgreements agreements;
    private final SalesAgreementStore store;
    private final MasterData masterData;
    private final Company company;
    private final Commands commands;
    private final AgreementQueries queries;

    SalesAgreementController(
            SalesAgreements agreements,
            SalesAgreementStore store,
            MasterData masterData,
            Company company,
            Commands commands,
            AgreementQueries queries) {
        this.agreements = agreements;
        this.store = store;
        this.masterData = masterData;
        this.company = company;
        this.commands = commands;
        this.queries = queries;
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
    record WrittenAgreement(
            @NotBlank String customer,
            @Size(max = 120) String po,
            @NotNull LocalDate from,
            @NotNull LocalDate until,
            @PositiveOrZero BigDecimal ceiling,
            @Min(1) @Max(366) Integer every,
            Recurrence.Unit unit,
            @Size(max = 2000) String remark,
            @Valid WrittenDetails details,
            @NotEmpty @Size(max = 500) List<@Valid WrittenLine> lines,
            @Size(max = 500) List<@Valid WrittenCall> schedule) {}

    record NewAgreement(
            @NotNull SalesAgreement.Kind kind,
            @NotNull @Valid WrittenAgreement content,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record ChangedAgreement(
            @NotNull Long version,
            @NotNull @Valid WrittenAgreement content,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record ClosedAgreement(
            @NotNull Long version, @Size(max = 2000) String reason) {}

    record SkippedDue(@NotNull Long version) {}

    record TakenLine(
            @NotNull Integer line,
            @NotNull @Digits(integer = 12, fraction = 3) BigDecimal quantity) {}

    /**
     * An order to be made.
     *
     * @param lines left out for all of a quote or a recurring order, and for what is due of a blanket order
     * @param po left out for the one it was agreed under
     * @param submit otherwise the order stays a draft
     */
    record MadeOrder(
            @NotNull Long version,
            @Size(max = 500) List<@Valid TakenLine> lines,
            @Size(max = 120) String po,
            Boolean submit,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** A row of a list; {@code due} says that an order of it is due today. */
    record SalesAgreementRow(
            String number,
            SalesAgreement.Kind kind,
            SalesAgreement.State state,
            boolean expired,
            String customer,
            String customerName,
            String po,
            LocalDate from,
            LocalDate until,
            BigDecimal net,
            @Nullable LocalDate nextDue,
            boolean due) {}

    record AgreementPage(
            List<SalesAgreementRow> rows, @Nullable String next) {}

    /** A line with what orders took of it. */
    record SalesAgreementLineView(
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

    record SalesAgreementChangeView(LocalDate on, String by, String sentence) {}

    record SalesAgreementView(
            String number,
            SalesAgreement.Kind kind,
            SalesAgreement.State state,
            boolean expired,
            String customer,
            String customerName,
            String po,
            LocalDate from,
            LocalDate until,
            @Nullable BigDecimal ceiling,
            @Nullable BigDecimal leftInValue,
            @Nullable Integer every,
            @Nullable Recurrence.Unit unit,
            @Nullable String recurrence,
            int made,
            @Nullable LocalDate nextDue,
            boolean due,
            String remark,
            OrderView.DetailsView details,
            String author,
            LocalDate writtenOn,
            BigDecimal net,
            List<SalesAgreementLineView> lines,
            List<CallView> schedule,
            List<MadeView> orders,
            List<SalesAgreementChangeView> changes,
            long version) {}

    /** By kind, the newest first; {@code due} only those of which an order is due today. */
    @GetMapping
    AgreementPage list(
            @RequestParam(required = false) SalesAgreement.Kind kind,
            @RequestParam(required = false) SalesAgreement.State state,
            @RequestParam(required = false) String customer,
            @RequestParam(defaultValue = "false") boolean due,
            @RequestParam(required = false) String after) {
        var today = company.today();
        var rows = queries.page(
                kind,
                state,
                customer,
                due ? today : null,
                after == null ? null : Pages.key(after).number(0));
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new AgreementPage(
                page.rows().stream().map(row -> row(row, today)).toList(), page.next());
    }

    private SalesAgreementRow row(AgreementQueries.ListedRow row, LocalDate today) {
        var open = row.state().equals(SalesAgreement.State.OPEN.name());
        return new SalesAgreementRow(
                row.number(),
                SalesAgreement.Kind.valueOf(row.kind()),
                SalesAgreement.State.valueOf(row.state()),
                open && row.validUntil().isBefore(today),
                row.customer(),
                row.customerName(),
                row.po(),
                row.validFrom(),
                row.validUntil(),
                company.money(row.net()).amount(),
                row.nextDue(),
                open && row.nextDue() != null && !row.nextDue().isAfter(today));
    }

    @GetMapping("/{number}")
    SalesAgreementView agreement(@PathVariable String number) {
        var kept = store.find(number);
        var o = kept.agreement();
        var today = company.today();
        var taken = store.taken(kept.id(), "");
        var schedule = queries.calls(kept.id()).stream()
                .map(row -> new CallView(row.dueOn(), row.lineNo(), row.quantity(), row.order()))
                .toList();
        var made = queries.ordersOf(kept.id()).stream()
                .map(row -> new MadeView(
                        row.number(),
                        row.state(),
                        row.orderedOn(),
                        company.money(row.net()).amount()))
                .toList();
        var changes = queries.changes(kept.id()).stream()
                .map(row -> new SalesAgreementChangeView(row.changedOn(), row.changedBy(), row.sentence()))
                .toList();
        var isOpen = o.state() == SalesAgreement.State.OPEN;
        return new SalesAgreementView(
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
                o.recurrence().map(Recurrence::every).orElse(null),
                o.recurrence().map(Recurrence::unit).orElse(null),
                o.recurrence().map(Recurrence::words).orElse(null),
                o.made(),
                o.dueNext().orElse(null),
                o.isDue(today),
                kept.remark(),
                OrderView.DetailsView.of(OrderEntity.details(kept.details())),
                kept.author(),
                kept.writtenOn(),
                o.net().amount(),
                lines(o, taken),
                schedule,
                made,
                changes,
                kept.version());
    }

    private static List<SalesAgreementLineView> lines(SalesAgreement o, SalesAgreement.Taken taken) {
        return o.lines().stream()
                .map(l -> new SalesAgreementLineView(
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
    }

    @Permissions.Enter
    @PostMapping
    SalesAgreementView write(@Valid @RequestBody NewAgreement request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                SalesAgreementView.class,
                context -> agreement(agreements.write(
                        context.given(request.date(), request.reason()), request.kind(), written(request.content()))));
    }

    @Permissions.Enter
    @PutMapping("/{number}")
    SalesAgreementView change(
            @PathVariable String number, @Valid @RequestBody ChangedAgreement request, HttpServletRequest http) {
        return commands.run(http, request, SalesAgreementView.class, context -> {
            agreements.change(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    written(request.content()));
            return agreement(number);
        });
    }

    /** A quote is lost, a blanket or recurring order ends; either with a reason. */
    @Permissions.Enter
    @PostMapping("/{number}/closing")
    SalesAgreementView close(
            @PathVariable String number, @Valid @RequestBody ClosedAgreement request, HttpServletRequest http) {
        return commands.run(http, request, SalesAgreementView.class, context -> {
            agreements.close(context.because(request.reason()), number, request.version());
            return agreement(number);
        });
    }

    /** Passes over a recurring order that is due. */
    @Permissions.Enter
    @PostMapping("/{number}/skips")
    SalesAgreementView skip(
            @PathVariable String number, @Valid @RequestBody SkippedDue request, HttpServletRequest http) {
        return commands.run(http, request, SalesAgreementView.class, context -> {
            agreements.skip(context, number, request.version());
            return agreement(number);
        });
    }

    @Permissions.Enter
    @PostMapping("/{number}/orders")
    OrderView make(@PathVariable String number, @Valid @RequestBody MadeOrder request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                OrderView.class,
                context -> agreements.make(
                        context.given(request.date(), request.reason()),
                        number,
                        request.version(),
                        asked(request.lines()),
                        request.po(),
                        Boolean.TRUE.equals(request.submit())));
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

    private SalesAgreements.Written written(WrittenAgreement content) {
        var recurrence = content.every() == null || content.unit() == null
                ? Optional.<Recurrence>empty()
                : Optional.of(new Recurrence(content.every(), content.unit()));
        return new SalesAgreements.Written(
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
                recurrence,
                content.schedule() == null
                        ? List.of()
                        : content.schedule().stream()
                                .map(c -> new SalesAgreement.Call(c.on(), c.line(), new Quantity(c.quantity())))
                                .toList());
    }
}
