package app.euthyna.server.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Plan;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.May;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Undoing over HTTP: look at the plan, then carry it out. */
@RestController
@RequestMapping("/api/unwind")
class UnwindController {

    private final UnwindService unwind;
    private final ChainReader chains;
    private final Commands commands;

    UnwindController(UnwindService unwind, ChainReader chains, Commands commands) {
        this.unwind = unwind;
        this.chains = chains;
        this.commands = commands;
    }

    record PartLine(int line, @NotNull BigDecimal quantity) {
    }

    /**
     * What should be undone.
     *
     * @param fingerprint of the preview; only for carrying it out
     */
    record Undoing(@NotBlank String order, @NotBlank String intent, List<@Valid PartLine> lines,
            @NotNull @Size(max = 2000) String reason, LocalDate date, String fingerprint) {
    }

    record StepEntryView(String role, String account, BigDecimal amount) {
    }

    record StepView(String kind, String sentence, String timing, List<Role> by, List<StepEntryView> entries) {
    }

    record LineChange(int line, String description, LineMeasures before, LineMeasures after) {
    }

    record LineMeasures(BigDecimal cancelled, BigDecimal reserved, BigDecimal staged, BigDecimal dispatched, BigDecimal billed,
            BigDecimal toShip, BigDecimal toBill) {
        static LineMeasures of(LineFlow flow) {
            return new LineMeasures(flow.cancelled().value(), flow.reserved().value(), flow.staged().value(), flow.dispatched().value(),
                    flow.billed().value(), flow.toShip().value(), flow.toBill().value());
        }
    }

    record PlanView(String words, List<StepView> steps, List<LineChange> lines, OrderState stateBefore, OrderState stateAfter,
            String fingerprint) {
    }

    record CarriedOut(String words, List<String> steps, OrderState state) {
    }

    /** The plan, before and after. A question: it keeps nothing and needs no key. */
    @May.Propose
    @PostMapping("/plans")
    PlanView plan(@Valid @RequestBody Undoing request) {
        var preview = unwind.preview(commands.context().on(request.date()).because(request.reason()), request.order(), intent(request));
        var steps = new ArrayList<StepView>();
        for (int at = 0; at < preview.plan().steps().size(); at++) {
            var step = preview.plan().steps().get(at);
            steps.add(new StepView(step.kind().code(), step.sentence(), step.timing().name(), step.by(), preview.entries().get(at).stream()
                    .map(l -> new StepEntryView(l.role().code(), l.account(), l.amount().amount())).toList()));
        }
        return new PlanView(preview.plan().words(), steps, changes(preview.before(), preview.after()), preview.before().order().state(),
                stateAfter(preview.before(), preview.after()), preview.fingerprint());
    }

    /** A held order stays held while something of it is open. */
    private static OrderState stateAfter(Chain before, Chain after) {
        var settled = after.settledState();
        return settled.isEnded() || before.order().state().isCleared() ? settled : before.order().state();
    }

    private static List<LineChange> changes(Chain before, Chain after) {
        return before.flows().stream().filter(flow -> flow.line().kind().isBilled()).map(flow -> new LineChange(flow.line().no(),
                flow.line().description(), LineMeasures.of(flow), LineMeasures.of(after.flow(flow.line().no())))).toList();
    }

    @May.Propose
    @PostMapping("/executions")
    CarriedOut carryOut(@Valid @RequestBody Undoing request, HttpServletRequest http) {
        if (request.fingerprint() == null || request.fingerprint().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("fingerprint", "the one of the plan that was looked at"));
        }
        return commands.run(http, request, CarriedOut.class, context -> {
            var plan = unwind.carryOut(context.on(request.date()).because(request.reason()), request.order(), intent(request),
                    request.fingerprint());
            return new CarriedOut(plan.words(), plan.steps().stream().map(Plan.Step::kind).map(Plan.Kind::code).toList(),
                    chains.chain(request.order()).order().state());
        });
    }

    private static Intent intent(Undoing request) {
        var parts = request.lines() == null ? List.<Intent.Part>of() : request.lines().stream()
                .map(l -> new Intent.Part(l.line(), new Quantity(l.quantity()))).toList();
        return switch (request.intent()) {
            case "cancel-rest" -> new Intent.CancelRest(parts);
            case "cancel-order" -> new Intent.CancelOrder();
            default -> throw new RefusedException(new CommonRefusal.NotFound("intent", request.intent()));
        };
    }
}
