package app.euthyna.server.billing;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.DecimalMax;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Positive;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Deposits and refunds over HTTP. */
@RestController
@RequestMapping("/api")
class DepositController {

    private final Deposits deposits;
    private final Commands commands;
    private final Company company;
    private final PaymentQueries queries;
    private final DepositRequests requests;

    DepositController(
            Deposits deposits, Commands commands, Company company, PaymentQueries queries, DepositRequests requests) {
        this.deposits = deposits;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
        this.requests = requests;
    }

    /** What is asked for of an order: an amount, or a per cent of its gross. */
    record AskedDeposit(
            @Positive BigDecimal amount,
            @Positive @DecimalMax("100") BigDecimal percent) {}

    /**
     * What was asked for and what came of it.
     *
     * @param percent of the gross; null where an amount was named
     * @param missing still to come
     */
    record DepositRequestView(
            String order,
            @Nullable BigDecimal percent,
            BigDecimal amount,
            LocalDate askedOn,
            String askedBy,
            BigDecimal received,
            BigDecimal missing) {}

    record DepositIn(
            @NotBlank String order,
            @NotNull BigDecimal amount,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** What a part of a deposit was put to. */
    record DepositUseView(
            DepositFact.Kind kind, String documentKind, String documentNumber, BigDecimal amount, LocalDate on) {}

    record DepositView(
            String number,
            String order,
            String customer,
            String customerName,
            LocalDate on,
            BigDecimal amount,
            BigDecimal unapplied,
            @Nullable String movedFrom,
            long version,
            List<DepositUseView> uses) {}

    record DepositPage(List<DepositView> rows, @Nullable String next) {}

    record AppliedDeposit(
            @NotNull Long version,
            @NotBlank String invoice,
            @NotNull BigDecimal amount,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** Where what is unapplied goes; without an amount, all of it. */
    record MovedDeposit(
            @NotNull Long version,
            @NotBlank String order,
            BigDecimal amount,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    record CreditedDeposit(
            @NotNull Long version,
            BigDecimal amount,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    /**
     * Money to be refunded of a deposit, or of the credit that a document left; without an amount, all that is there.
     */
    record WrittenRefund(
            @NotBlank String of,
            @NotNull Long version,
            BigDecimal amount,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    /**
     * Money refunded.
     *
     * @param reversed it did not reach the customer
     * @param payout how far the payment service is with it; null where it was paid manually
     */
    record RefundView(
            String number,
            String customer,
            String customerName,
            String sourceKind,
            String source,
            BigDecimal amount,
            LocalDate on,
            String reason,
            boolean reversed,
            @Nullable Payouts.State payout) {}

    record RefundPage(List<RefundView> rows, @Nullable String next) {}

    /** Asks for a deposit; asking again takes the place of what was asked before. */
    @Permissions.Propose
    @PutMapping("/orders/{number}/deposit-request")
    DepositRequestView ask(
            @PathVariable String number, @Valid @RequestBody AskedDeposit request, HttpServletRequest http) {
        if ((request.amount() == null) == (request.percent() == null)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("amount", "either an amount or a percentage"));
        }
        return commands.run(http, request, DepositRequestView.class, context -> {
            requests.ask(context, number, request.percent(), request.amount());
            return asked(number);
        });
    }

    /** What was asked for of an order. */
    @GetMapping("/orders/{number}/deposit-request")
    DepositRequestView asked(@PathVariable String number) {
        return requests.asked(number)
                .map(row -> {
                    var asked = company.money(row.amount());
                    var received = company.money(row.received());
                    return new DepositRequestView(
                            number,
                            row.percent(),
                            asked.amount(),
                            row.askedOn(),
                            row.askedBy(),
                            received.amount(),
                            asked.minus(received).max(asked.minus(asked)).amount());
                })
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("deposit request of order", number)));
    }

    @Permissions.Bill
    @PostMapping("/deposits")
    DepositView receive(@Valid @RequestBody DepositIn request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                DepositView.class,
                context -> deposit(deposits.deposit(
                        context.given(request.date(), request.reason()),
                        request.order(),
                        company.given("amount", request.amount()))));
    }

    @Permissions.Bill
    @PostMapping("/deposits/{number}/applications")
    DepositView apply(
            @PathVariable String number, @Valid @RequestBody AppliedDeposit request, HttpServletRequest http) {
        return commands.run(http, request, DepositView.class, context -> {
            deposits.applyDeposit(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    request.invoice(),
                    company.given("amount", request.amount()));
            return deposit(number);
        });
    }

    @Permissions.Bill
    @PostMapping("/deposits/{number}/moves")
    DepositView move(@PathVariable String number, @Valid @RequestBody MovedDeposit request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                DepositView.class,
                context -> deposit(deposits.moveDeposit(
                        context.given(request.date(), request.reason()),
                        number,
                        request.version(),
                        request.order(),
                        amount(request.amount()))));
    }

    @Permissions.Bill
    @PostMapping("/deposits/{number}/credits")
    DepositView credit(
            @PathVariable String number, @Valid @RequestBody CreditedDeposit request, HttpServletRequest http) {
        return commands.run(http, request, DepositView.class, context -> {
            deposits.creditDeposit(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    amount(request.amount()));
            return deposit(number);
        });
    }

    @Permissions.Bill
    @PostMapping("/refunds")
    RefundView refund(@Valid @RequestBody WrittenRefund request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                RefundView.class,
                context -> refund(deposits.refund(
                        context.given(request.date(), request.reason()),
                        request.of(),
                        request.version(),
                        amount(request.amount()))));
    }

    private Optional<Money> amount(BigDecimal given) {
        return Optional.ofNullable(given).map(amount -> company.given("amount", amount));
    }

    @GetMapping("/deposits/{number}")
    DepositView deposit(@PathVariable String number) {
        return queries.deposits(number, false, null, null, null).stream()
                .findFirst()
                .map(row -> view(row, uses(row.id())))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("deposit", number)));
    }

    /**
     * Deposits, newest first.
     *
     * @param open only those with something unapplied
     */
    @GetMapping("/deposits")
    DepositPage page(
            @RequestParam(defaultValue = "false") boolean open,
            @RequestParam(defaultValue = "") String customer,
            @RequestParam(defaultValue = "") String order,
            @RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.deposits(
                        null,
                        open,
                        customer.isEmpty() ? null : customer,
                        order.isEmpty() ? null : order,
                        after == null ? null : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new DepositPage(
                page.rows().stream().map(row -> view(row, List.of())).toList(), page.next());
    }

    private List<DepositUseView> uses(long deposit) {
        return queries.uses(deposit).stream()
                .map(row -> new DepositUseView(
                        row.kind(),
                        row.documentKind().name(),
                        row.documentNumber(),
                        company.money(row.amount()).amount(),
                        row.usedOn()))
                .toList();
    }

    private DepositView view(PaymentQueries.DepositRow row, List<DepositUseView> uses) {
        return new DepositView(
                row.number(),
                row.order(),
                row.customer(),
                row.customerName(),
                row.receivedOn(),
                company.money(row.amount()).amount(),
                company.money(row.leftAmount()).amount(),
                row.movedFrom(),
                row.version(),
                uses);
    }

    @GetMapping("/refunds/{number}")
    RefundView refund(@PathVariable String number) {
        return queries.refunds(number, null).stream()
                .findFirst()
                .map(this::view)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("refund", number)));
    }

    /** Refunds, newest first. */
    @GetMapping("/refunds")
    RefundPage refunds(@RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.refunds(null, after == null ? null : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new RefundPage(page.rows().stream().map(this::view).toList(), page.next());
    }

    private RefundView view(PaymentQueries.RefundRow row) {
        return new RefundView(
                row.number(),
                row.customer(),
                row.customerName(),
                row.sourceKind().name(),
                row.sourceNumber(),
                company.money(row.amount()).amount(),
                row.refundedOn(),
                row.reason(),
                row.reversedOn() != null,
                row.payout() == null ? null : Payouts.State.valueOf(row.payout()));
    }
}
