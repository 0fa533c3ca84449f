package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckFigures;
import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.check.Severity;
import app.euthyna.core.order.CompanyField;
import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Limits;
import app.euthyna.server.masterdata.ReceivablesRules;
import app.euthyna.server.masterdata.UnwindRules;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DecimalMark;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Positive;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The rules of the company: how checks weigh, their figures, the PO policy; and what a change of them would do. */
@RestController
@RequestMapping("/api/rules")
class RulesController {

    private final CompanyRulesStore store;
    private final RulesPreview previews;
    private final DailyRecheck recheck;
    private final Commands commands;
    private final Company company;

    RulesController(
            CompanyRulesStore store, RulesPreview previews, DailyRecheck recheck, Commands commands, Company company) {
        this.store = store;
        this.previews = previews;
        this.recheck = recheck;
        this.commands = commands;
        this.company = company;
    }

    /** How a check weighs for each kind of order. Duplicate PO stands in the PO policy instead. */
    record CheckRow(
            @NotBlank String check, String title, @NotNull Map<OrderKind, Severity> severities) {}

    /** Most discount that a role may give, per cent. */
    record Authority(
            @NotNull Role role,
            @NotNull @PositiveOrZero @Max(100) BigDecimal percent) {}

    /** Figures that checks hold orders against; what is left out is not looked at. */
    record Figures(
            @PositiveOrZero @Max(3650) @Nullable Integer overdueDays,
            @PositiveOrZero @Nullable BigDecimal overdueAbove,
            @PositiveOrZero @Max(99) @Nullable BigDecimal minimumMargin,
            @Size(max = 10) List<@Valid Authority> discountUpTo,
            @NotNull @PositiveOrZero @Max(1000) BigDecimal unusualScore) {}

    /** What a repeated PO number means for customers without a policy of their own. */
    record Po(
            boolean required,
            @NotNull Severity same,
            @NotNull Severity alike,
            @NotNull Severity near,
            @PositiveOrZero @Nullable BigDecimal ceiling,
            @NotNull PoPolicy.Barred barred) {}

    /** Where PO numbers are looked for. */
    record Places(
            boolean openOrders,
            boolean closedOrders,
            @PositiveOrZero @Max(600) int closedMonths,
            boolean unpostedInvoices,
            boolean postedInvoices,
            boolean importedHistory) {}

    /** A part of the company that revenue counts for. */
    record RevenueUnitView(
            @NotBlank @Size(max = 40) @Pattern(regexp = "[A-Za-z0-9-]+")
            String code,

            @NotBlank @Size(max = 120) String name) {}

    /** A field of the company's own on its orders. */
    record FieldView(
            @NotBlank @Size(max = 40) @Pattern(regexp = "[a-z0-9-]+")
            String code,

            @NotBlank @Size(max = 80) String label,
            @NotNull CompanyField.Kind kind,
            @Size(max = 60) List<@NotBlank @Size(max = 80) String> choices,
            boolean required) {}

    /** What is asked of every order: the first unit is that of orders that name none. */
    record EntryRulesView(
            @NotNull @Size(max = 60) List<@Valid RevenueUnitView> units,
            @NotNull @Size(max = 30) List<@Valid FieldView> fields) {}

    /** A reason by its code, which never changes, and its words. */
    record ReasonRule(
            @NotBlank @Size(max = 60) @Pattern(regexp = "[a-z0-9-]+")
            String code,

            @NotBlank @Size(max = 120) String words) {}

    /** Up to which amount a role acts on its own word. */
    record LimitRow(
            @NotNull Role role, @NotNull @PositiveOrZero BigDecimal amount) {}

    /** Limits of roles; a role that is not named has none, nor has the finance lead. */
    record LimitsView(
            @NotNull @Size(max = 10) List<@Valid LimitRow> refund,
            @NotNull @Size(max = 10) List<@Valid LimitRow> goodsForNothing,
            @Size(max = 10) List<@Valid LimitRow> badDebt) {}

    /** What is written off, and what a dispute keeps from being dunned. */
    record ReceivablesRulesView(
            @NotNull @PositiveOrZero BigDecimal smallDifference, boolean badDebtRelief, boolean disputesAside) {}

    /** How things are undone. */
    record UnwindRulesView(
            @NotEmpty @Size(max = 60) List<@Valid ReasonRule> reasons,
            @NotNull @PositiveOrZero @Max(100) BigDecimal restockingPercent,
            Boolean refundsThroughService) {}

    /** A reason for which goods come back, and what follows from it. */
    record ReturnReasonRule(
            @NotBlank @Size(max = 60) @Pattern(regexp = "[a-z0-9-]+")
            String code,

            @NotBlank @Size(max = 120) String words,
            boolean noFee,
            boolean freight,
            boolean ahead) {}

    /** What may come back; without days, always. */
    record ReturnRulesView(
            @Positive @Max(3650) @Nullable Integer days,
            @NotEmpty @Size(max = 60) List<@Valid ReturnReasonRule> reasons) {}

    /** Rules to be published over those of the version that the user saw. */
    record WrittenRules(
            @NotNull Long version,
            @NotNull @Size(max = 40) List<@Valid CheckRow> checks,
            @NotNull @Valid Figures figures,
            @NotNull @Valid Po po,
            @NotNull @Valid Places places,
            @Valid EntryRulesView entry,
            @Size(max = 10) List<OrderKind> billedAhead,
            @Valid UnwindRulesView unwind,
            @Valid ReturnRulesView returns,
            @Valid LimitsView limits,
            @Valid ReceivablesRulesView receivables,
            @PositiveOrZero @Max(366) Integer daysBack,
            DecimalMark decimalMark,
            @Size(max = 2000) String reason) {}

    record RulesView(
            long version,
            List<CheckRow> checks,
            Figures figures,
            Po po,
            Places places,
            EntryRulesView entry,
            List<OrderKind> billedAhead,
            UnwindRulesView unwind,
            ReturnRulesView returns,
            LimitsView limits,
            ReceivablesRulesView receivables,
            int daysBack,
            DecimalMark decimalMark,
            List<CompanyRulesStore.Change> changes) {}

    @GetMapping
    RulesView rules() {
        var current = store.current();
        var rules = current.rules();
        var figures = rules.checks().figures();
        var rows = Arrays.stream(Check.values())
                .filter(check -> check != Check.DUPLICATE_PO)
                .map(check -> {
                    var kinds = new EnumMap<OrderKind, Severity>(OrderKind.class);
                    Arrays.stream(OrderKind.values())
                            .forEach(kind -> kinds.put(kind, rules.checks().of(check, kind)));
                    return new CheckRow(check.code(), check.title(), kinds);
                })
                .toList();
        return new RulesView(
                current.version(),
                rows,
                new Figures(
                        figures.overdue().map(CustomerRules.Overdue::days).orElse(null),
                        figures.overdue().map(o -> o.above().amount()).orElse(null),
                        figures.minimumMargin().orElse(null),
                        figures.discountUpTo().entrySet().stream()
                                .sorted(Map.Entry.comparingByKey())
                                .map(e -> new Authority(e.getKey(), e.getValue()))
                                .toList(),
                        figures.unusualScore()),
                new Po(
                        rules.po().required(),
                        rules.po().same(),
                        rules.po().alike(),
                        rules.po().near(),
                        rules.po().ceiling().map(c -> c.amount()).orElse(null),
                        rules.po().barred()),
                new Places(
                        rules.places().openOrders(),
                        rules.places().closedOrders(),
                        rules.places().closedMonths(),
                        rules.places().unpostedInvoices(),
                        rules.places().postedInvoices(),
                        rules.places().importedHistory()),
                entry(rules.entry()),
                rules.billedAhead().stream().sorted().toList(),
                unwind(rules.unwind()),
                returns(rules.returns()),
                limits(rules.limits()),
                new ReceivablesRulesView(
                        rules.receivables().smallDifference(),
                        rules.receivables().badDebtRelief(),
                        rules.receivables().disputesAside()),
                rules.daysBack(),
                rules.decimalMark(),
                store.changes());
    }

    /** What a change of the rules would hold and let go, before it is made. A question: it keeps nothing. */
    @Permissions.KeepMasterData
    @PostMapping("/previews")
    RulesPreview.Preview preview(@Valid @RequestBody WrittenRules request) {
        return previews.of(commands.context(), core(request));
    }

    /** Lays down rules. Held orders are looked at again at once; cleared ones stay cleared. */
    @Permissions.KeepMasterData
    @PutMapping
    RulesView publish(@Valid @RequestBody WrittenRules request, HttpServletRequest http) {
        if (request.reason() == null || request.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the change"));
        }
        var view = commands.run(http, request, RulesView.class, context -> {
            store.publish(context.because(request.reason().strip()), request.version(), core(request));
            return rules();
        });
        recheck.held(commands.context().today());
        return view;
    }

    private CompanyRules core(WrittenRules request) {
        if (request.po().near() == Severity.STOP) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("po.near", "CAUTION or OFF; a near match never stops an order"));
        }
        var severities = new EnumMap<Check, Map<OrderKind, Severity>>(Check.class);
        for (var row : request.checks()) {
            var check = ReviewController.named(List.of(row.check())).iterator().next();
            var own = new EnumMap<OrderKind, Severity>(OrderKind.class);
            row.severities().forEach((kind, severity) -> {
                if (severity != CheckPolicy.preset(check, kind)) {
                    own.put(kind, severity);
                }
            });
            if (!own.isEmpty() && check != Check.DUPLICATE_PO) {
                severities.put(check, own);
            }
        }
        var given = request.figures();
        var overdue = Optional.ofNullable(given.overdueDays())
                .map(days -> new CustomerRules.Overdue(
                        days,
                        company.given(
                                "figures.overdueAbove",
                                given.overdueAbove() == null ? BigDecimal.ZERO : given.overdueAbove())));
        var authority = new EnumMap<Role, BigDecimal>(Role.class);
        if (given.discountUpTo() != null) {
            given.discountUpTo().forEach(a -> authority.put(a.role(), a.percent()));
        }
        var po = request.po();
        var places = request.places();
        return new CompanyRules(
                new CheckPolicy(
                        severities,
                        new CheckFigures(
                                overdue, Optional.ofNullable(given.minimumMargin()), authority, given.unusualScore())),
                new PoPolicy(
                        po.required(),
                        po.same(),
                        po.alike(),
                        po.near(),
                        Optional.ofNullable(po.ceiling()).map(c -> company.given("po.ceiling", c)),
                        po.barred()),
                new PoPlaces(
                        places.openOrders(),
                        places.closedOrders(),
                        places.closedMonths(),
                        places.unpostedInvoices(),
                        places.postedInvoices(),
                        places.importedHistory()),
                request.entry() == null ? store.inForce().entry() : entry(request.entry()),
                request.billedAhead() == null ? store.inForce().billedAhead() : Set.copyOf(request.billedAhead()),
                request.unwind() == null ? store.inForce().unwind() : unwind(request.unwind()),
                request.returns() == null ? store.inForce().returns() : returns(request.returns()),
                request.limits() == null ? store.inForce().limits() : limits(request.limits()),
                request.receivables() == null ? store.inForce().receivables() : receivables(request.receivables()),
                request.daysBack(),
                request.decimalMark() == null ? store.inForce().decimalMark() : request.decimalMark());
    }

    private static LimitsView limits(Limits limits) {
        return new LimitsView(rows(limits.refund()), rows(limits.goodsForNothing()), rows(limits.badDebt()));
    }

    private static List<LimitRow> rows(Map<Role, BigDecimal> limits) {
        return limits.entrySet().stream()
                .map(limit -> new LimitRow(limit.getKey(), limit.getValue()))
                .toList();
    }

    private Limits limits(LimitsView given) {
        return new Limits(
                amounts("limits.refund", given.refund()),
                amounts("limits.goodsForNothing", given.goodsForNothing()),
                given.badDebt() == null
                        ? store.inForce().limits().badDebt()
                        : amounts("limits.badDebt", given.badDebt()));
    }

    private ReceivablesRules receivables(ReceivablesRulesView given) {
        return new ReceivablesRules(
                company.given("receivables.smallDifference", given.smallDifference())
                        .amount(),
                given.badDebtRelief(),
                given.disputesAside());
    }

    private Map<Role, BigDecimal> amounts(String field, List<LimitRow> rows) {
        var amounts = new EnumMap<Role, BigDecimal>(Role.class);
        for (var row : rows) {
            var amount = company.given(field + "." + row.role(), row.amount()).amount();
            if (row.role() == Role.LEAD || amounts.put(row.role(), amount) != null) {
                throw new RefusedException(
                        CommonRefusal.Incomplete.of(field, "each role once, and not the finance lead"));
            }
        }
        return amounts;
    }

    private static UnwindRulesView unwind(UnwindRules rules) {
        return new UnwindRulesView(
                rules.reasons().stream()
                        .map(r -> new ReasonRule(r.code(), r.words()))
                        .toList(),
                rules.restockingPercent(),
                rules.refundsThroughService());
    }

    private UnwindRules unwind(UnwindRulesView given) {
        if (given.reasons().stream().map(ReasonRule::code).distinct().count()
                < given.reasons().size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("unwind.reasons", "each code once"));
        }
        return new UnwindRules(
                given.reasons().stream()
                        .map(r -> new UnwindRules.Reason(r.code(), r.words().strip()))
                        .toList(),
                given.restockingPercent(),
                given.refundsThroughService());
    }

    private static ReturnRulesView returns(ReturnPolicy policy) {
        return new ReturnRulesView(
                policy.days().orElse(null),
                policy.reasons().stream()
                        .map(r -> new ReturnReasonRule(r.code(), r.words(), r.noFee(), r.freight(), r.ahead()))
                        .toList());
    }

    private static ReturnPolicy returns(ReturnRulesView given) {
        if (given.reasons().stream().map(ReturnReasonRule::code).distinct().count()
                < given.reasons().size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("returns.reasons", "each code once"));
        }
        return new ReturnPolicy(
                Optional.ofNullable(given.days()),
                given.reasons().stream()
                        .map(r ->
                                new ReturnPolicy.Reason(r.code(), r.words().strip(), r.noFee(), r.freight(), r.ahead()))
                        .toList());
    }

    private static EntryRulesView entry(EntryRules rules) {
        return new EntryRulesView(
                rules.units().stream()
                        .map(u -> new RevenueUnitView(u.code(), u.name()))
                        .toList(),
                rules.fields().stream()
                        .map(f -> new FieldView(f.code(), f.label(), f.kind(), f.choices(), f.required()))
                        .toList());
    }

    private static EntryRules entry(EntryRulesView given) {
        if (given.units().stream().map(RevenueUnitView::code).distinct().count()
                < given.units().size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("entry.units", "each code once"));
        }
        if (given.fields().stream().map(FieldView::code).distinct().count()
                < given.fields().size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("entry.fields", "each code once"));
        }
        for (var field : given.fields()) {
            if (field.kind() == CompanyField.Kind.LIST
                    && (field.choices() == null || field.choices().isEmpty())) {
                throw new RefusedException(CommonRefusal.Incomplete.of("entry.fields." + field.code(), "the choices"));
            }
        }
        return new EntryRules(
                given.units().stream()
                        .map(u -> new EntryRules.Unit(u.code(), u.name().strip()))
                        .toList(),
                given.fields().stream()
                        .map(f -> new CompanyField(
                                f.code(),
                                f.label().strip(),
                                f.kind(),
                                f.kind() == CompanyField.Kind.LIST ? f.choices() : List.of(),
                                f.required()))
                        .toList());
    }
}
