package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.check.ReviewViews.DryRunView;
import app.euthyna.server.check.ReviewViews.PositionView;
import app.euthyna.server.check.ReviewViews.ReviewPage;
import app.euthyna.server.check.ReviewViews.SheetView;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.WrittenDetails;
import app.euthyna.server.order.WrittenLine;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
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
    private final CaseSheets sheets;
    private final Commands commands;
    private final ReviewPages pages;

    ReviewController(ReviewPages pages, CheckService checks, CaseSheets sheets, Commands commands) {
        this.pages = pages;
        this.checks = checks;
        this.sheets = sheets;
        this.commands = commands;
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
            return sheets.of(context, number);
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
        return sheets.dryRun(run);
    }

    /** An order with all that speaks for and against it. */
    @GetMapping("/review/{number}")
    SheetView sheet(@PathVariable String number) {
        return sheets.of(commands.context(), number);
    }

    /** A customer's exposure with its terms. */
    @GetMapping("/customers/{code}/position")
    PositionView position(@PathVariable String code) {
        return sheets.position(code);
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
        return pages.page(sort, only, reason, after == null ? null : Pages.key(after));
    }
}
