package app.euthyna.server.check;

import app.euthyna.core.check.Remedy;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.order.OrderView;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Clearing several orders at once, what would clear one, and the recheck of what passes by the clock. */
@RestController
@RequestMapping("/api")
class ClearingController {

    private final ClearingService clearing;
    private final CheckService checks;
    private final OrderService orders;
    private final DailyRecheck recheck;
    private final Commands commands;

    ClearingController(
            ClearingService clearing,
            CheckService checks,
            OrderService orders,
            DailyRecheck recheck,
            Commands commands) {
        this.clearing = clearing;
        this.checks = checks;
        this.orders = orders;
        this.recheck = recheck;
        this.commands = commands;
    }

    /**
     * An order in the sequence.
     *
     * @param version that was seen; may be left out when one only asks
     * @param accepted checks that may pass although they grew
     */
    record AskedOrder(
            @NotBlank String number,
            Long version,
            @Size(max = 30) List<String> accepted) {}

    /** Orders in the sequence in which they are to be cleared. */
    record AskedSequence(
            @NotEmpty @Size(max = 200) List<@Valid AskedOrder> orders,
            @Size(max = 2000) String reason) {
        private CommandContext in(CommandContext context) {
            return context.because(reason);
        }

        private List<ClearingService.Asked> asked() {
            return orders.stream()
                    .map(o -> new ClearingService.Asked(
                            o.number(),
                            Optional.ofNullable(o.version()),
                            o.accepted() == null ? Set.of() : ReviewController.named(o.accepted())))
                    .toList();
        }
    }

    record AskedClearing(
            @NotNull @Valid AskedSequence sequence,
            @NotBlank String fingerprint) {}

    /** What clearing orders in a sequence would do. A question, not a command: it keeps nothing and needs no key. */
    @Permissions.Decide
    @PostMapping("/clearing-previews")
    ClearingService.Sequence preview(@Valid @RequestBody AskedSequence request) {
        return clearing.preview(request.in(commands.context()), request.asked());
    }

    /** Clears orders in a sequence, as the preview with the fingerprint showed. */
    @Permissions.Decide
    @PostMapping("/clearings")
    ClearingService.Sequence clear(@Valid @RequestBody AskedClearing request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                ClearingService.Sequence.class,
                context -> clearing.clear(
                        request.sequence().in(context), request.sequence().asked(), request.fingerprint()));
    }

    /**
     * What would clear a finding.
     *
     * @param order as it would be; null where money is what it takes
     * @param clears nothing would hold the order any more
     * @param leftOpen what would still be open, in a few words each
     */
    record RemedyView(
            String check,
            Remedy.Kind kind,
            String sentence,
            @Nullable OrderView order,
            List<OrderView.LineView> rest,
            @Nullable BigDecimal amount,
            boolean clears,
            List<String> leftOpen) {}

    record AppliedRemedy(
            @NotNull Long version,
            @NotBlank String check,
            @NotNull Remedy.Kind kind) {}

    @GetMapping("/review/{number}/remedies")
    List<RemedyView> remedies(@PathVariable String number) {
        return checks.remedies(commands.context(), number).stream()
                .map(this::view)
                .toList();
    }

    private RemedyView view(Remedy remedy) {
        return new RemedyView(
                remedy.check().code(),
                remedy.kind(),
                remedy.sentence(),
                remedy.changed().map(order -> orders.simulated(order)).orElse(null),
                remedy.rest().map(order -> orders.simulated(order).lines()).orElse(List.of()),
                remedy.amount().map(amount -> amount.amount()).orElse(null),
                remedy.clears(),
                remedy.leftOpen().stream()
                        .map(f -> ReviewViews.shown(f).brief())
                        .toList());
    }

    /** Changes an order as a remedy says. */
    @Permissions.Enter
    @PostMapping("/orders/{number}/remedies")
    OrderView apply(@PathVariable String number, @Valid @RequestBody AppliedRemedy request, HttpServletRequest http) {
        return commands.run(http, request, OrderView.class, context -> {
            checks.remedy(
                    context,
                    number,
                    request.version(),
                    ReviewController.named(List.of(request.check())).iterator().next(),
                    request.kind());
            return orders.view(number);
        });
    }

    record Swept(int customers) {}

    /**
     * Has everything looked at that passes by the clock, as happens once a day by itself. Safe to send as often as one
     * likes.
     */
    @Permissions.Decide
    @PostMapping("/rechecks")
    Swept recheck() {
        return new Swept(recheck.run(commands.context().today()));
    }
}
