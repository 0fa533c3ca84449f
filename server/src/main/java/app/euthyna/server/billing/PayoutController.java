package app.euthyna.server.billing;

import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
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

/** Refunds that go through the payment service, over HTTP. */
@RestController
@RequestMapping("/api")
class PayoutController {

    private final Payouts payouts;
    private final PayoutJobs jobs;
    private final Commands commands;
    private final Company company;
    private final RefundQueries queries;

    PayoutController(Payouts payouts, PayoutJobs jobs, Commands commands, Company company, RefundQueries queries) {
        this.payouts = payouts;
        this.jobs = jobs;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
    }

    /**
     * A refund on its way.
     *
     * @param tries how often it was sent or asked for
     * @param reference the service's own, once it has paid
     */
    record PayoutView(
            String refund,
            String customer,
            String customerName,
            String sourceKind,
            String source,
            BigDecimal amount,
            LocalDate on,
            Payouts.State state,
            int tries,
            String reference,
            String answer,
            long version) {}

    record PayoutPage(List<PayoutView> rows, @Nullable String next) {}

    record PayoutSeen(@NotNull Long version) {}

    /** Payouts that are not done, the oldest first. */
    @GetMapping("/payouts")
    PayoutPage open(@RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.openPayouts(after == null ? 0 : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new PayoutPage(page.rows().stream().map(this::view).toList(), page.next());
    }

    private PayoutView view(RefundQueries.PayoutRow row) {
        return new PayoutView(
                row.refund(),
                row.customer(),
                row.customerName(),
                row.sourceKind().name(),
                row.sourceNumber(),
                company.money(row.amount()).amount(),
                row.refundedOn(),
                Payouts.State.valueOf(row.state()),
                row.tries(),
                row.reference(),
                row.answer(),
                row.version());
    }

    /**
     * Asks the service what became of a refund that it did not answer; the money goes out once, however often it is
     * asked.
     */
    @Permissions.Bill
    @PostMapping("/payouts/{refund}/askings")
    PayoutView ask(@PathVariable String refund, @Valid @RequestBody PayoutSeen request, HttpServletRequest http) {
        return commands.run(http, request, PayoutView.class, context -> {
            jobs.askAgain(refund, request.version());
            return view(refund);
        });
    }

    /** Notes that someone has seen that a refund was declined: the money stays customer credit. */
    @Permissions.Bill
    @PostMapping("/payouts/{refund}/closings")
    PayoutView close(@PathVariable String refund, @Valid @RequestBody PayoutSeen request, HttpServletRequest http) {
        return commands.run(http, request, PayoutView.class, context -> {
            payouts.close(refund, request.version());
            return view(refund);
        });
    }

    private PayoutView view(String refund) {
        return view(queries.payout(refund));
    }
}
