package app.euthyna.server.billing;

import app.euthyna.core.billing.Receiving;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
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

/** Payments over HTTP, and the credit that they leave. */
@RestController
@RequestMapping("/api")
class PaymentController {

    private final Payments payments;
    private final InvoiceQueries queries;
    private final Commands commands;
    private final Company company;

    PaymentController(Payments payments, InvoiceQueries queries, Commands commands, Company company) {
        this.payments = payments;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    /**
     * What of money settles an invoice.
     *
     * @param discount with the discount for paying early, which settles the rest
     */
    record SettledInvoice(@NotBlank String invoice, @NotNull BigDecimal amount, Boolean discount) {
        private boolean discounted() {
            return Boolean.TRUE.equals(discount);
        }
    }

    record PaymentIn(
            @NotBlank String customer,
            @NotNull BigDecimal amount,
            @Size(max = 500) List<@Valid SettledInvoice> allocate,
            @Size(max = 140) String reference,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /**
     * What of customer credit settles an invoice.
     *
     * @param amount as much as is open and there is credit for, where it is left out
     * @param discount with the discount for paying early, which settles the rest
     */
    record CreditShare(@NotBlank String invoice, BigDecimal amount, Boolean discount) {}

    /** @param of the document whose credit it is; the oldest credit first where it is left out */
    record CreditUse(
            @NotBlank String customer,
            String of,
            @NotEmpty List<@Valid CreditShare> allocate,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /**
     * Money that came in, or a deposit that became customer credit.
     *
     * @param left customer credit from it that is not used
     * @param reference what the payer wrote
     */
    record PaymentView(
            String number,
            String kind,
            String customer,
            String customerName,
            LocalDate on,
            BigDecimal amount,
            BigDecimal left,
            BigDecimal refunded,
            boolean reversed,
            String reference,
            long version,
            List<AllocationView> allocations) {}

    /**
     * What of a payment stands against an invoice.
     *
     * @param discount that was taken with it for paying early; null where none was
     */
    record AllocationView(
            String invoice, BigDecimal amount, @Nullable BigDecimal discount) {}

    record CreditView(String customer, BigDecimal credit) {}

    record PaymentPage(List<PaymentView> rows, @Nullable String next) {}

    @Permissions.Bill
    @PostMapping("/payments")
    PaymentView pay(@Valid @RequestBody PaymentIn request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                PaymentView.class,
                context -> payment(payments.receive(
                        context.given(request.date(), request.reason()),
                        request.customer(),
                        new Payments.Received(
                                company.given("amount", request.amount()),
                                settlements(request.allocate()),
                                discounted(request.allocate()),
                                context.today(),
                                Texts.given(request.reference())))));
    }

    /** What of a payment is to be taken off invoices; it stays as customer credit. */
    record TakenOff(
            @NotNull Long version,
            @NotEmpty List<@Valid SettledInvoice> allocate,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    @Permissions.Bill
    @PostMapping("/payments/{number}/unallocations")
    PaymentView takeOff(@PathVariable String number, @Valid @RequestBody TakenOff request, HttpServletRequest http) {
        return commands.run(http, request, PaymentView.class, context -> {
            payments.takeOff(
                    context.given(request.date(), request.reason()),
                    number,
                    request.version(),
                    settlements(request.allocate()));
            return payment(number);
        });
    }

    /** Why a payment, or the money of a deposit, is undone. */
    record Reversed(@NotNull Long version, @Size(max = 2000) String reason, LocalDate date) {}

    /** A payment bounced: its entries are mirrored. */
    @Permissions.Bill
    @PostMapping("/payments/{number}/reversal")
    PaymentView reverse(@PathVariable String number, @Valid @RequestBody Reversed request, HttpServletRequest http) {
        return commands.run(http, request, PaymentView.class, context -> {
            payments.reverse(context.given(request.date(), request.reason()), number, request.version());
            return payment(number);
        });
    }

    @Permissions.Bill
    @PostMapping("/credit-allocations")
    CreditView allocateCredit(@Valid @RequestBody CreditUse request, HttpServletRequest http) {
        return commands.run(http, request, CreditView.class, context -> {
            payments.allocateCredit(
                    context.given(request.date(), request.reason()),
                    request.customer(),
                    request.allocate().stream()
                            .map(share -> new Receiving.Share(
                                    share.invoice(),
                                    Optional.ofNullable(share.amount())
                                            .map(amount ->
                                                    company.given("allocate[" + share.invoice() + "].amount", amount))))
                            .toList(),
                    Texts.given(request.of()),
                    request.allocate().stream()
                            .filter(share -> Boolean.TRUE.equals(share.discount()))
                            .map(CreditShare::invoice)
                            .collect(Collectors.toSet()),
                    context.today());
            return credit(request.customer());
        });
    }

    private static Set<String> discounted(List<SettledInvoice> allocate) {
        return allocate == null
                ? Set.of()
                : allocate.stream()
                        .filter(SettledInvoice::discounted)
                        .map(SettledInvoice::invoice)
                        .collect(Collectors.toSet());
    }

    private List<Settlement> settlements(List<SettledInvoice> allocate) {
        return allocate == null
                ? List.of()
                : allocate.stream()
                        .map(a -> new Settlement(
                                a.invoice(), company.given("allocate[" + a.invoice() + "].amount", a.amount())))
                        .toList();
    }

    @GetMapping("/customers/{code}/credit")
    CreditView credit(@PathVariable String code) {
        return new CreditView(code, company.money(queries.credit(code)).amount());
    }

    @GetMapping("/payments/{number}")
    PaymentView payment(@PathVariable String number) {
        var discounts = payments.discounts(number);
        var allocations = queries.settled(number).stream()
                .map(row -> new AllocationView(
                        row.invoice(),
                        company.money(row.amount()).amount(),
                        Optional.ofNullable(discounts.get(row.invoice()))
                                .map(Money::amount)
                                .orElse(null)))
                .toList();
        return queries.payment(number)
                .map(row -> payment(row, allocations))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("payment", number)));
    }

    private PaymentView payment(InvoiceQueries.PaymentRow row, List<AllocationView> allocations) {
        return new PaymentView(
                row.number(),
                row.kind().name(),
                row.customer(),
                row.customerName(),
                row.receivedOn(),
                company.money(row.amount()).amount(),
                company.money(row.leftAmount()).amount(),
                company.money(row.refunded()).amount(),
                row.reversed(),
                row.reference(),
                row.version(),
                allocations);
    }

    /** Payments, newest first. */
    @GetMapping("/payments")
    PaymentPage payments(@RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.payments(
                        after == null ? Long.MAX_VALUE : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new PaymentPage(
                page.rows().stream().map(row -> payment(row, List.of())).toList(), page.next());
    }
}
