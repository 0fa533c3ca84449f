package app.euthyna.server.billing;

import app.euthyna.core.billing.Depositing;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
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
import org.springframework.jdbc.core.simple.JdbcClient;
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

    private final BillingService billing;
    private final ChainReader chains;
    private final Commands commands;
    private final Company company;
    private final Locks locks;
    private final Ids ids;
    private final JdbcClient jdbc;

    DepositController(
            BillingService billing,
            ChainReader chains,
            Commands commands,
            Company company,
            Locks locks,
            Ids ids,
            JdbcClient jdbc) {
        this.billing = billing;
        this.chains = chains;
        this.commands = commands;
        this.company = company;
        this.locks = locks;
        this.ids = ids;
        this.jdbc = jdbc;
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
        return commands.run(http, request, DepositRequestView.class, given -> {
            var context = given;
            locks.customerAndOrder(number);
            var amount = request.amount() == null
                    ? Depositing.share(chains.chain(number), request.percent())
                    : company.given("amount", request.amount());
            jdbc.sql("delete from deposit_request where order_id = ?")
                    .param(ids.order(number))
                    .update();
            jdbc.sql("insert into deposit_request (order_id, percent, amount, asked_on, asked_by) values (?, ?,"
                            + " ?, ?, ?)")
                    .param(ids.order(number))
                    .param(request.percent())
                    .param(amount.amount())
                    .param(context.date())
                    .param(context.person().username())
                    .update();
            return asked(number);
        });
    }

    /** What was asked for of an order. */
    @GetMapping("/orders/{number}/deposit-request")
    DepositRequestView asked(@PathVariable String number) {
        return jdbc.sql("""
            select r.percent, r.amount, r.asked_on, r.asked_by, (select coalesce(sum(d.amount), 0)
            from deposit d where d.order_id = r.order_id)
            from deposit_request r where r.order_id = ?\
            """)
                .param(ids.order(number))
                .query((r, n) -> {
                    var asked = company.money(r.getBigDecimal(2));
                    var received = company.money(r.getBigDecimal(5));
                    return new DepositRequestView(
                            number,
                            r.getBigDecimal(1),
                            asked.amount(),
                            r.getObject(3, LocalDate.class),
                            r.getString(4),
                            received.amount(),
                            asked.minus(received).max(asked.minus(asked)).amount());
                })
                .optional()
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
                context -> deposit(billing.deposit(
                        context.given(request.date(), request.reason()),
                        request.order(),
                        company.given("amount", request.amount()))));
    }

    @Permissions.Bill
    @PostMapping("/deposits/{number}/applications")
    DepositView apply(
            @PathVariable String number, @Valid @RequestBody AppliedDeposit request, HttpServletRequest http) {
        return commands.run(http, request, DepositView.class, context -> {
            billing.applyDeposit(
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
                context -> deposit(billing.moveDeposit(
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
            billing.creditDeposit(
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
                context -> refund(billing.refund(
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
        return deposits("d.number = ?", List.of(number)).stream()
                .map(Keyed::row)
                .findFirst()
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
        var rows = deposits(
                "d.id < ? and (? = '' or c.code = ?) and (? = '' or o.number = ?)"
                        + (open ? " and d.left_amount > 0" : ""),
                List.of(after == null ? Long.MAX_VALUE : Pages.key(after).number(0), customer, customer, order, order));
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new DepositPage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    private record Keyed(long id, DepositView row) {}

    private List<Keyed> deposits(String which, List<?> parameters) {
        var heads = jdbc.sql("select d.id, d.number, o.number, c.code, c.name, d.received_on, d.amount, d.left_amount,"
                        + " (select m.number from deposit m where m.id = d.moved_from), d.version from deposit d"
                        + " join sales_order o on o.id = d.order_id join customer c on c.id = d.customer_id where "
                        + which
                        + " order by d.id desc fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> new Keyed(
                        r.getLong(1),
                        new DepositView(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getObject(6, LocalDate.class),
                                company.money(r.getBigDecimal(7)).amount(),
                                company.money(r.getBigDecimal(8)).amount(),
                                r.getString(9),
                                r.getLong(10),
                                List.of())))
                .list();
        return heads.stream()
                .map(head -> heads.size() > 1 ? head : new Keyed(head.id(), withUses(head)))
                .toList();
    }

    private DepositView withUses(Keyed head) {
        var uses = jdbc.sql("select kind, document_kind, document_number, amount, used_on from deposit_use where"
                        + " deposit_id = ? order by id")
                .param(head.id())
                .query((r, n) -> new DepositUseView(
                        DepositFact.Kind.valueOf(r.getString(1)),
                        r.getString(2),
                        r.getString(3),
                        company.money(r.getBigDecimal(4)).amount(),
                        r.getObject(5, LocalDate.class)))
                .list();
        var row = head.row();
        return new DepositView(
                row.number(),
                row.order(),
                row.customer(),
                row.customerName(),
                row.on(),
                row.amount(),
                row.unapplied(),
                row.movedFrom(),
                row.version(),
                uses);
    }

    @GetMapping("/refunds/{number}")
    RefundView refund(@PathVariable String number) {
        return refunds("r.number = ?", number).stream()
                .map(KeyedRefund::row)
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("refund", number)));
    }

    /** Refunds, newest first. */
    @GetMapping("/refunds")
    RefundPage refunds(@RequestParam(required = false) String after) {
        var page = Pages.of(
                refunds(
                        "r.id < ?",
                        after == null ? Long.MAX_VALUE : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new RefundPage(page.rows().stream().map(KeyedRefund::row).toList(), page.next());
    }

    private record KeyedRefund(long id, RefundView row) {}

    private List<KeyedRefund> refunds(String which, Object parameter) {
        return jdbc.sql("select r.id, r.number, c.code, c.name, r.source_kind, r.source_number, r.amount,"
                        + " r.refunded_on, r.reason, r.reversed_on, p.state from refund r join customer c on c.id"
                        + " = r.customer_id left join payout p on p.refund_id = r.id where "
                        + which + " order by r.id desc fetch first 101 rows only")
                .param(parameter)
                .query((r, n) -> new KeyedRefund(
                        r.getLong(1),
                        new RefundView(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getString(6),
                                company.money(r.getBigDecimal(7)).amount(),
                                r.getObject(8, LocalDate.class),
                                r.getString(9),
                                r.getObject(10) != null,
                                r.getString(11) == null ? null : Payouts.State.valueOf(r.getString(11)))))
                .list();
    }
}
