package app.euthyna.server.unwind;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.Texts;
import app.euthyna.server.unwind.Unwindings.KeptStep;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What was undone, and plans that wait. */
@RestController
@RequestMapping("/api/unwind")
class UndoneController {

    private final WaitingPlans waiting;
    private final UnwindQueries queries;
    private final Commands commands;
    private final Company company;

    UndoneController(WaitingPlans waiting, UnwindQueries queries, Commands commands, Company company) {
        this.waiting = waiting;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    /**
     * Something that was undone.
     *
     * @param orders that it was about
     * @param waitsFor GOODS, INSPECTION, DECISION or PERIOD; null where nothing waits
     * @param steps all of the plan; those before {@code waitsAt} are done
     */
    record UnwindingView(
            long id,
            String intent,
            DocumentKind kind,
            String number,
            String customer,
            String customerName,
            List<String> orders,
            String words,
            String reasonCode,
            String reason,
            LocalDate on,
            String by,
            BigDecimal amount,
            String state,
            @Nullable String waitsFor,
            @Nullable String waitsAt,
            @Nullable String returnNumber,
            List<KeptStep> steps,
            LocalDate since,
            @Nullable String endedBy,
            @Nullable String endedWhy,
            long version) {}

    record UnwindingPage(List<UnwindingView> rows, @Nullable String next) {}

    /** What was undone, newest first: all, of one order, or what still waits. */
    @GetMapping("/done")
    UnwindingPage done(
            @RequestParam(required = false) String order,
            @RequestParam(defaultValue = "false") boolean waiting,
            @RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.done(
                        null,
                        order,
                        waiting,
                        after == null ? null : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.done().id)));
        return new UnwindingPage(page.rows().stream().map(this::view).toList(), page.next());
    }

    private UnwindingView view(UnwindQueries.DoneRow row) {
        var done = row.done();
        return new UnwindingView(
                done.id,
                done.intent,
                DocumentKind.valueOf(done.subjectKind),
                done.subjectNumber,
                row.customer(),
                row.customerName(),
                queries.ordersOf(done.id),
                done.words,
                done.reasonCode,
                done.reason,
                done.undoneOn,
                done.undoneBy,
                company.money(done.amount).amount(),
                done.state,
                done.waitsFor,
                done.waitsAt,
                done.returnNumber,
                List.of(Records.read(done.steps, KeptStep[].class)),
                done.touchedOn,
                done.endedBy,
                done.endedWhy,
                done.version);
    }

    record PlanVersion(
            @NotNull Long version, @Size(max = 2000) String reason) {}

    /** The finance lead agrees to what a plan waits for. */
    @Permissions.Propose
    @PostMapping("/waiting/{id}/decisions")
    UnwindingView decide(@PathVariable long id, @Valid @RequestBody PlanVersion request, HttpServletRequest http) {
        return commands.run(http, request, UnwindingView.class, context -> {
            waiting.decide(context.because(Texts.given(request.reason())), id, request.version());
            return one(id);
        });
    }

    /** Gives up the rest of a plan; what has happened of it stays. */
    @Permissions.Propose
    @PostMapping("/waiting/{id}/abandonments")
    UnwindingView abandon(@PathVariable long id, @Valid @RequestBody PlanVersion request, HttpServletRequest http) {
        return commands.run(http, request, UnwindingView.class, context -> {
            waiting.abandon(context.because(request.reason()), id, request.version());
            return one(id);
        });
    }

    private UnwindingView one(long id) {
        return view(queries.done(id, null, false, null).get(0));
    }
}
