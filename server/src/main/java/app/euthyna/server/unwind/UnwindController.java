package app.euthyna.server.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Role;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.UnwindRules;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** UnwindRequest over HTTP: look at the plan, then carry it out; and what still waits. */
@RestController
@RequestMapping("/api/unwind")
class UnwindController {

    private static final String LOOKED_AT = "no reason given yet";

    private final UnwindService unwind;
    private final Commands commands;
    private final CompanyRulesStore rules;
    private final LedgerReader ledger;
    private final UnwindQueries queries;
    private final UnwindPreviews previews;

    UnwindController(
            UnwindService unwind,
            Commands commands,
            CompanyRulesStore rules,
            LedgerReader ledger,
            UnwindQueries queries,
            UnwindPreviews previews) {
        this.previews = previews;
        this.unwind = unwind;
        this.commands = commands;
        this.rules = rules;
        this.ledger = ledger;
        this.queries = queries;
    }

    record UndoneLine(int line, @NotNull BigDecimal quantity) {}

    /**
     * What should be undone.
     *
     * @param kind of the document: ORDER, DISPATCH, INVOICE, DEPOSIT, PAYMENT or CREDIT_NOTE
     * @param money refund or customer-credit; left out where nothing was chosen
     * @param reasonCode in the list of reasons
     * @param fingerprint of the preview; only for carrying it out
     */
    record ToUndo(
            @NotNull DocumentKind kind,
            @NotBlank String number,
            @NotBlank String intent,
            @Size(max = 2000) List<@Valid UndoneLine> lines,
            String money,
            Boolean withDispatch,
            Boolean withdraw,
            BigDecimal restockingPercent,
            @Size(max = 2000) String reason,
            @Size(max = 60) String reasonCode,
            LocalDate date,
            String fingerprint) {

        AskedUnwind asked() {
            return new AskedUnwind(
                    kind,
                    number,
                    intent,
                    lines == null
                            ? List.of()
                            : lines.stream()
                                    .map(l -> new AskedUnwind.Line(l.line(), l.quantity()))
                                    .toList(),
                    money,
                    Boolean.TRUE.equals(withDispatch),
                    Boolean.TRUE.equals(withdraw),
                    restockingPercent);
        }

        String code() {
            return reasonCode == null || reasonCode.isBlank() ? "other" : reasonCode;
        }
    }

    record StepEntryView(String role, String account, String name, BigDecimal amount) {}

    record EntryOfStep(String event, LocalDate on, String document, List<StepEntryView> lines) {}

    record StepView(
            String kind,
            String sentence,
            String timing,
            List<Role> by,
            @Nullable @ReadBy(ReadBy.Group.BOOKS) List<EntryOfStep> entries) {}

    record UnitsView(
            BigDecimal ordered,
            BigDecimal cancelled,
            BigDecimal reserved,
            BigDecimal staged,
            BigDecimal dispatched,
            BigDecimal returned,
            BigDecimal billed,
            BigDecimal credited,
            BigDecimal toShip,
            BigDecimal toBill) {
        static UnitsView of(LineFlow flow) {
            return new UnitsView(
                    flow.ordered().value(),
                    flow.cancelled().value(),
                    flow.reserved().value(),
                    flow.staged().value(),
                    flow.dispatched().value(),
                    flow.returned().value(),
                    flow.billed().value(),
                    flow.credited().value(),
                    flow.toShip().value(),
                    flow.toBill().value());
        }
    }

    record LineChange(String order, int line, String description, UnitsView before, UnitsView now, UnitsView done) {}

    record StateChange(String order, String before, String now, String done) {}

    record ShelfChange(
            String item,
            String site,
            @Nullable Standing.ShelfFigures before,
            @Nullable Standing.ShelfFigures now,
            Standing.ShelfFigures done) {}

    record MoneyChange(String kind, String number, String what, BigDecimal before, BigDecimal now, BigDecimal done) {}

    /** What the entries of the orders' documents leave on an account. */
    record AccountChange(
            String role, String account, String name, BigDecimal before, BigDecimal now, BigDecimal done) {}

    record AnswerView(String code, String words) {}

    record QuestionView(String code, String words, List<AnswerView> answers) {}

    /**
     * The plan with everything before and after it. "now" is after the steps that are possible now, "done" after all of
     * them, if what waits comes as planned; the two are the same where nothing waits.
     */
    record PlanView(
            String words,
            BigDecimal amount,
            List<StepView> steps,
            @Nullable String waitsAt,
            List<StateChange> states,
            List<LineChange> lines,
            List<ShelfChange> shelves,
            List<MoneyChange> money,
            @Nullable @ReadBy(ReadBy.Group.BOOKS) List<AccountChange> accounts,
            List<String> besides,
            List<QuestionView> questions,
            BigDecimal restockingPercent,
            String fingerprint) {}

    record CarriedOutView(
            long id,
            String words,
            List<String> steps,
            @Nullable String waitsAt,
            @Nullable String returnNumber,
            List<String> refunds) {}

    /** What may be undone of a document: each way, and what stands in it. */
    record WayView(
            String intent,
            DocumentKind kind,
            String number,
            String words,
            boolean possible,
            @Nullable String code,
            @Nullable String sentence,
            @Nullable String instead) {}

    record UndoReason(String code, String words) {}

    record WaysView(String customer, String customerName, List<WayView> ways, List<UndoReason> reasons) {}

    /** A line with how much of it can be undone at most. */
    record UndoableLine(int line, String description, BigDecimal most) {}

    /** The plan, before and after. A question: it keeps nothing and needs no key. */
    @Permissions.Propose
    @PostMapping("/plans")
    PlanView plan(@Valid @RequestBody ToUndo request) {
        var reason = request.reason() == null || request.reason().isBlank() ? LOOKED_AT : request.reason();
        var preview = commands.simulated(() -> previews.preview(
                commands.context().because(reason).on(request.date()), request.asked(), request.code()));
        var names = ledger.accountNames();
        var plan = preview.plan();
        var steps = new ArrayList<StepView>();
        for (int at = 0; at < plan.steps().size(); at++) {
            var step = plan.steps().get(at);
            steps.add(new StepView(
                    step.kind().code(),
                    step.sentence(),
                    step.timing().name(),
                    step.by(),
                    preview.entries().get(at).stream()
                            .map(e -> new EntryOfStep(
                                    e.event(),
                                    e.on(),
                                    e.document(),
                                    e.lines().stream()
                                            .map(l -> new StepEntryView(
                                                    l.role().code(),
                                                    l.account(),
                                                    names.get(l.account()),
                                                    l.amount().amount()))
                                            .toList()))
                            .toList()));
        }
        return new PlanView(
                plan.words(),
                plan.value().amount(),
                steps,
                plan.waitsAt().map(step -> step.kind().code()).orElse(null),
                states(preview),
                lines(preview),
                shelves(preview),
                money(preview),
                accounts(preview, names),
                preview.besides(),
                plan.questions().stream()
                        .map(q -> new QuestionView(
                                q.code(),
                                q.words(),
                                q.answers().stream()
                                        .map(a -> new AnswerView(a.code(), a.words()))
                                        .toList()))
                        .toList(),
                rules.inForce()
                        .returns()
                        .reason(request.code())
                        .feePercent(rules.inForce().unwind().restockingPercent()),
                preview.fingerprint());
    }

    private static List<StateChange> states(UnwindPreviews.Preview preview) {
        return preview.before().states().keySet().stream()
                .map(order -> new StateChange(
                        order,
                        preview.before().states().get(order).name(),
                        preview.now().states().get(order).name(),
                        preview.done().states().get(order).name()))
                .toList();
    }

    private static List<LineChange> lines(UnwindPreviews.Preview preview) {
        return preview.before().lines().entrySet().stream()
                .map(e -> new LineChange(
                        e.getKey().order(),
                        e.getKey().line(),
                        e.getKey().description(),
                        UnitsView.of(e.getValue()),
                        UnitsView.of(preview.now().lines().get(e.getKey())),
                        UnitsView.of(preview.done().lines().get(e.getKey()))))
                .toList();
    }

    private static List<ShelfChange> shelves(UnwindPreviews.Preview preview) {
        return preview.done().shelves().entrySet().stream()
                .map(e -> new ShelfChange(
                        e.getKey().item(),
                        e.getKey().site(),
                        preview.before().shelves().get(e.getKey()),
                        preview.now().shelves().get(e.getKey()),
                        e.getValue()))
                .filter(s -> !Objects.equals(s.before(), s.now()) || !s.now().equals(s.done()))
                .toList();
    }

    private static List<MoneyChange> money(UnwindPreviews.Preview preview) {
        return preview.done().money().entrySet().stream()
                .map(e -> new MoneyChange(
                        e.getKey().kind(),
                        e.getKey().number(),
                        e.getKey().what(),
                        preview.before().money().getOrDefault(e.getKey(), BigDecimal.ZERO),
                        preview.now().money().getOrDefault(e.getKey(), BigDecimal.ZERO),
                        e.getValue()))
                .filter(m -> m.before().compareTo(m.now()) != 0 || m.now().compareTo(m.done()) != 0)
                .toList();
    }

    private static List<AccountChange> accounts(UnwindPreviews.Preview preview, Map<String, String> names) {
        return preview.done().accounts().entrySet().stream()
                .sorted(Map.Entry.comparingByKey(Comparator.comparing(Standing.AccountKey::account)))
                .map(e -> new AccountChange(
                        e.getKey().role().code(),
                        e.getKey().account(),
                        names.get(e.getKey().account()),
                        preview.before().accounts().getOrDefault(e.getKey(), BigDecimal.ZERO),
                        preview.now().accounts().getOrDefault(e.getKey(), BigDecimal.ZERO),
                        e.getValue()))
                .filter(a -> a.before().compareTo(a.now()) != 0 || a.now().compareTo(a.done()) != 0)
                .toList();
    }

    @Permissions.Propose
    @PostMapping("/executions")
    CarriedOutView carryOut(@Valid @RequestBody ToUndo request, HttpServletRequest http) {
        if (request.fingerprint() == null || request.fingerprint().isBlank()) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("fingerprint", "the fingerprint of the plan that was shown"));
        }
        return commands.run(http, request, CarriedOutView.class, context -> {
            var done = unwind.carryOut(
                    context.given(request.date(), request.reason()),
                    request.asked(),
                    request.code(),
                    request.fingerprint());
            return view(done);
        });
    }

    static CarriedOutView view(UnwindService.CarriedOut done) {
        var effects = done.plan().now().stream()
                .flatMap(step -> step.effects().stream())
                .toList();
        return new CarriedOutView(
                done.id(),
                done.plan().words(),
                done.plan().steps().stream().map(step -> step.kind().code()).toList(),
                done.plan().waitsAt().map(step -> step.kind().code()).orElse(null),
                effects.stream()
                        .filter(Effect.ReturnAuthorised.class::isInstance)
                        .map(Effect.ReturnAuthorised.class::cast)
                        .map(e -> e.authorised().number())
                        .findFirst()
                        .orElse(null),
                effects.stream()
                        .filter(Effect.RefundGiven.class::isInstance)
                        .map(Effect.RefundGiven.class::cast)
                        .map(e -> e.refund())
                        .toList());
    }

    /** What may be undone around a document, itself first; and what stands in the way of the rest. */
    @GetMapping("/ways")
    WaysView ways(@RequestParam DocumentKind kind, @RequestParam String number) {
        var possible = unwind.ways(commands.context().because(LOOKED_AT), kind, number);
        var ways = possible.ways().stream()
                .map(way -> {
                    var asked = way.asked();
                    if (way.planned().isRefused()) {
                        var refusal = way.planned().refusals().get(0);
                        return new WayView(
                                asked.intent(),
                                asked.kind(),
                                asked.number(),
                                asked.toIntent().words(),
                                false,
                                refusal.code(),
                                refusal.sentence(),
                                refusal.instead());
                    }
                    return new WayView(
                            asked.intent(),
                            asked.kind(),
                            asked.number(),
                            way.planned().get().words(),
                            true,
                            null,
                            null,
                            null);
                })
                .toList();
        var name = queries.customerName(possible.customer());
        return new WaysView(possible.customer(), name, ways, reasons());
    }

    /** The lines of a document that quantities can be named of. */
    @GetMapping("/lines")
    List<UndoableLine> lines(
            @RequestParam DocumentKind kind, @RequestParam String number, @RequestParam String intent) {
        return unwind.lines(kind, number, intent).stream()
                .map(line -> new UndoableLine(
                        line.no(), line.description(), line.most().value()))
                .toList();
    }

    @GetMapping("/reasons")
    List<UndoReason> reasons() {
        return rules.inForce().unwind().reasons().stream()
                .map((UnwindRules.Reason r) -> new UndoReason(r.code(), r.words()))
                .toList();
    }
}
