package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.WrittenLine;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Quantities;
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
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Invoices and money over HTTP. */
@RestController
@RequestMapping("/api")
class BillingController {

    private final DocumentDetails details;
    private final BillingService billing;
    private final ChainReader chains;
    private final Commands commands;
    private final Batches batches;
    private final Company company;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final DirectInvoicing direct;

    BillingController(
            BillingService billing,
            ChainReader chains,
            Commands commands,
            Company company,
            JdbcClient jdbc,
            Clock clock,
            DocumentDetails details,
            DirectInvoicing direct,
            Batches batches) {
        this.batches = batches;
        this.direct = direct;
        this.details = details;
        this.clock = clock;
        this.billing = billing;
        this.chains = chains;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
    }

    record BilledLine(
            @NotBlank String order, int line, @NotNull BigDecimal quantity) {}

    /**
     * Orders of one customer to be billed together; without lines, all that can be billed of them.
     *
     * @param text above the lines
     * @param ahead also what has not left yet; its revenue is deferred
     */
    record Bill(
            @NotEmpty @Size(max = 200) List<@NotBlank String> orders,
            List<@Valid BilledLine> lines,
            @Size(max = 2000) String text,
            Boolean ahead,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** An invoice without an earlier order. */
    record DirectInvoice(
            @NotBlank String customer,
            @Size(max = 120) String po,
            String site,
            @Size(max = 2000) String text,
            @NotEmpty @Size(max = 2000) List<@Valid WrittenLine> lines,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    record SettledInvoice(@NotBlank String invoice, @NotNull BigDecimal amount) {}

    record PaymentIn(
            @NotBlank String customer,
            @NotNull BigDecimal amount,
            @Size(max = 500) List<@Valid SettledInvoice> allocate,
            @Size(max = 140) String reference,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** @param of the document whose credit it is; the oldest credit first where it is left out */
    record CreditUse(
            @NotBlank String customer,
            String of,
            @NotEmpty List<@Valid SettledInvoice> allocate,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /**
     * A line of an invoice.
     *
     * @param po the customer's own number of its order
     * @param dispatches that brought the goods; those that left after they were billed among them
     * @param ahead billed and not gone yet
     */
    record InvoiceLineView(
            int no,
            String order,
            int orderLine,
            String po,
            List<String> dispatches,
            String item,
            String description,
            BigDecimal quantity,
            BigDecimal price,
            BigDecimal discount,
            BigDecimal net,
            String vatCategory,
            BigDecimal vatRate,
            BigDecimal ahead) {}

    /** The taxable amount and VAT of one category and rate (EN 16931-1 BG-23). */
    record VatBandView(String category, BigDecimal rate, BigDecimal taxable, BigDecimal vat) {}

    record InvoiceView(
            String number,
            String customer,
            String customerName,
            LocalDate on,
            LocalDate dueOn,
            String state,
            BigDecimal net,
            BigDecimal vat,
            BigDecimal gross,
            BigDecimal open,
            String text,
            long version,
            List<DocumentDetails.CarriedDetails> details,
            List<InvoiceLineView> lines,
            List<VatBandView> bands) {}

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

    /** What of a payment stands against an invoice. */
    record AllocationView(String invoice, BigDecimal amount) {}

    record CreditView(String customer, BigDecimal credit) {}

    record ToBillLine(int line, String item, String description, BigDecimal toBill, BigDecimal net) {}

    record ToBillRow(
            String customer,
            String customerName,
            String order,
            String po,
            LocalDate since,
            BigDecimal net,
            List<ToBillLine> lines) {}

    record ToBillPage(List<ToBillRow> rows, @Nullable String next) {}

    record InvoiceRow(
            String number,
            String customer,
            String customerName,
            LocalDate on,
            LocalDate dueOn,
            String state,
            BigDecimal gross,
            BigDecimal open) {}

    record InvoicePage(List<InvoiceRow> rows, @Nullable String next) {}

    record PaymentPage(List<PaymentView> rows, @Nullable String next) {}

    @Permissions.Bill
    @PostMapping("/invoices")
    InvoiceView bill(@Valid @RequestBody Bill request, HttpServletRequest http) {
        return commands.run(http, request, InvoiceView.class, context -> {
            var shares = request.lines() == null
                    ? List.<Share>of()
                    : request.lines().stream()
                            .map(l -> new Share(
                                    new LineRef(l.order(), l.line()),
                                    Quantities.given(
                                            "lines[" + l.order() + "/" + l.line() + "].quantity", l.quantity())))
                            .toList();
            return invoice(billing.bill(
                    context.given(request.date(), request.reason()),
                    request.orders(),
                    shares,
                    Texts.given(request.text()),
                    Boolean.TRUE.equals(request.ahead())));
        });
    }

    @Permissions.Bill
    @PostMapping("/direct-invoices")
    InvoiceView billDirectly(@Valid @RequestBody DirectInvoice request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                InvoiceView.class,
                context -> invoice(direct.invoice(
                        context.given(request.date(), request.reason()),
                        new OrderDraft(
                                request.customer(),
                                request.po(),
                                null,
                                request.site(),
                                request.date(),
                                null,
                                null,
                                null,
                                request.lines().stream().map(WrittenLine::line).toList()),
                        Texts.given(request.text()))));
    }

    /** Orders that are to stand on one invoice: one of many. */
    record BilledTogether(@NotEmpty @Size(max = 200) List<@NotBlank String> orders) {}

    record BillingBatch(
            @NotEmpty @Size(max = 500) List<@Valid BilledTogether> invoices,
            @Size(max = 2000) String text,
            LocalDate date,
            @Size(max = 2000) String reason) {}

    /** Bills many, each invoice on its own; the answer is the log, which goes on where it is long. */
    @Permissions.Bill
    @PostMapping("/batches/billings")
    Batches.BatchView billMany(@Valid @RequestBody BillingBatch request, HttpServletRequest http) {
        var text = Texts.given(request.text());
        return batches.carryOut(commands.run(
                http,
                request,
                Long.class,
                context -> batches.begin(
                        context.given(request.date(), request.reason()),
                        Batches.Kind.BILLING,
                        request.invoices().stream()
                                .map(one -> new Batches.Asked(
                                        DocumentKind.ORDER,
                                        String.join(", ", one.orders()),
                                        new BillingWork.Asked(one.orders(), text)))
                                .toList())));
    }

    @Permissions.Bill
    @PostMapping("/payments")
    PaymentView pay(@Valid @RequestBody PaymentIn request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                PaymentView.class,
                context -> payment(billing.receive(
                        context.given(request.date(), request.reason()),
                        request.customer(),
                        company.given("amount", request.amount()),
                        settlements(request.allocate()),
                        Texts.given(request.reference()))));
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
            billing.takeOff(
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
            billing.reverse(context.given(request.date(), request.reason()), number, request.version());
            return payment(number);
        });
    }

    @Permissions.Bill
    @PostMapping("/credit-allocations")
    CreditView allocateCredit(@Valid @RequestBody CreditUse request, HttpServletRequest http) {
        return commands.run(http, request, CreditView.class, context -> {
            billing.allocateCredit(
                    context.given(request.date(), request.reason()),
                    request.customer(),
                    settlements(request.allocate()),
                    Texts.given(request.of()));
            return credit(request.customer());
        });
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
        return jdbc.sql("select coalesce(sum(p.left_amount), 0) from payment p join customer c on c.id = p.customer_id"
                        + " where c.code = ? and p.left_amount > 0")
                .param(code)
                .query((r, n) ->
                        new CreditView(code, company.money(r.getBigDecimal(1)).amount()))
                .single();
    }

    @GetMapping("/invoices/{number}")
    InvoiceView invoice(@PathVariable String number) {
        record Gone(String dispatch, BigDecimal quantity) {}
        var gone = new HashMap<Integer, List<Gone>>();
        jdbc.sql("""
            select l.line_no, d.number, s.quantity from invoice i join invoice_line l on l.invoice_id = i.id
            join invoice_line_source s on s.invoice_line_id = l.id join dispatch d on d.id = s.dispatch_id
            where i.number = ? order by s.id\
            """)
                .param(number)
                .query((r, n) -> gone.computeIfAbsent(r.getInt(1), no -> new ArrayList<>())
                        .add(new Gone(r.getString(2), r.getBigDecimal(3))))
                .list();
        var lines = jdbc.sql("""
            select l.line_no, o.number, l.order_line_no, l.item_code, l.description, l.quantity, l.unit_price,
                l.discount_percent, l.net,
                   l.vat_category, l.vat_rate, o.po, l.kind
            from invoice i join invoice_line l on l.invoice_id = i.id join sales_order o on o.id = l.root_order_id
            where i.number = ? order by l.line_no\
            """)
                .param(number)
                .query((r, n) -> {
                    var brought = gone.getOrDefault(r.getInt(1), List.of());
                    var ahead = r.getString(13).equals("STOCK")
                            ? brought.stream().map(Gone::quantity).reduce(r.getBigDecimal(6), BigDecimal::subtract)
                            : BigDecimal.ZERO;
                    return new InvoiceLineView(
                            r.getInt(1),
                            r.getString(2),
                            r.getInt(3),
                            r.getString(12),
                            brought.stream().map(Gone::dispatch).distinct().toList(),
                            r.getString(4),
                            r.getString(5),
                            new Quantity(r.getBigDecimal(6)).value(),
                            r.getBigDecimal(7),
                            r.getBigDecimal(8),
                            company.money(r.getBigDecimal(9)).amount(),
                            r.getString(10),
                            r.getBigDecimal(11),
                            new Quantity(ahead).value());
                })
                .list();
        var bands = Totals.of(
                        lines.stream()
                                .map(line -> new Totals.Part(
                                        company.money(line.net()),
                                        new Vat(Vat.Category.valueOf(line.vatCategory()), line.vatRate())))
                                .toList(),
                        company.currency())
                .bands()
                .stream()
                .map(band -> new VatBandView(
                        band.vat().category().name(),
                        band.vat().ratePercent(),
                        band.taxable().amount(),
                        band.tax().amount()))
                .toList();
        return jdbc.sql("""
            select i.number, c.code, c.name, i.invoiced_on, i.due_on, i.net, i.vat, i.gross, i.open_amount,
                i.version, i.text, i.reversed_on is not null
            from invoice i join customer c on c.id = i.customer_id where i.number = ?\
            """)
                .param(number)
                .query((r, n) -> new InvoiceView(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getObject(4, LocalDate.class),
                        r.getObject(5, LocalDate.class),
                        state(r.getBigDecimal(8), r.getBigDecimal(9), r.getBoolean(12)),
                        company.money(r.getBigDecimal(6)).amount(),
                        company.money(r.getBigDecimal(7)).amount(),
                        company.money(r.getBigDecimal(8)).amount(),
                        company.money(r.getBigDecimal(9)).amount(),
                        r.getString(11),
                        r.getLong(10),
                        details.of("INVOICE", number),
                        lines,
                        bands))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("invoice", number)));
    }

    private String state(BigDecimal gross, BigDecimal open, boolean reversed) {
        return OpenInvoice.state(company.money(gross), company.money(open), reversed)
                .name();
    }

    @GetMapping("/payments/{number}")
    PaymentView payment(@PathVariable String number) {
        var allocations = jdbc.sql("""
            select i.number, sum(a.amount) from payment p join allocation a on a.payment_id = p.id
            join invoice i on i.id = a.invoice_id
            where p.number = ? group by i.id, i.number having sum(a.amount) <> 0 order by i.id\
            """)
                .param(number)
                .query((r, n) -> new AllocationView(
                        r.getString(1), company.money(r.getBigDecimal(2)).amount()))
                .list();
        return jdbc.sql("select " + PAYMENT
                        + " from payment p join customer c on c.id = p.customer_id where p.number = ?")
                .param(number)
                .query((r, n) -> payment(r, allocations))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("payment", number)));
    }

    private static final String PAYMENT =
            "p.number, p.kind, c.code, c.name, p.received_on, p.amount, p.left_amount, p.refunded, p.reversed,"
                    + " p.reference, p.version, p.id";

    private PaymentView payment(ResultSet r, List<AllocationView> allocations) throws SQLException {
        return new PaymentView(
                r.getString(1),
                r.getString(2),
                r.getString(3),
                r.getString(4),
                r.getObject(5, LocalDate.class),
                company.money(r.getBigDecimal(6)).amount(),
                company.money(r.getBigDecimal(7)).amount(),
                company.money(r.getBigDecimal(8)).amount(),
                r.getBoolean(9),
                r.getString(10),
                r.getLong(11),
                allocations);
    }

    /** Orders with something to bill, grouped by customer. */
    @GetMapping("/billing/to-bill")
    ToBillPage toBill(@RequestParam(required = false) String after) {
        var key = after == null ? new Pages.Key(List.of("0", "0")) : Pages.key(after);
        var rows = jdbc.sql("""
            select x.customer_id, x.order_id, c.code, c.name, o.number, o.po, x.billable_since, x.billable_net
            from open_order x join sales_order o on o.id = x.order_id join customer c on c.id = x.customer_id
            where x.billable = true and (x.customer_id > ? or (x.customer_id = ? and x.order_id > ?))
            order by x.billable, x.customer_id, x.order_id fetch first 101 rows only\
            """)
                .params(key.number(0), key.number(0), key.number(1))
                .query((r, n) -> new ToBill(
                        r.getLong(1),
                        r.getLong(2),
                        new ToBillRow(
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getString(6),
                                r.getObject(7, LocalDate.class),
                                company.money(r.getBigDecimal(8)).amount(),
                                List.of())))
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.customer()), String.valueOf(row.order())));
        var found =
                chains.chains(page.rows().stream().map(row -> row.row().order()).toList());
        return new ToBillPage(
                page.rows().stream()
                        .map(ToBill::row)
                        .map(row -> new ToBillRow(
                                row.customer(),
                                row.customerName(),
                                row.order(),
                                row.po(),
                                row.since(),
                                row.net(),
                                found.get(row.order()).flows().stream()
                                        .filter(flow -> flow.toBill().isPositive())
                                        .map(flow -> new ToBillLine(
                                                flow.line().no(),
                                                flow.line().item(),
                                                flow.line().description(),
                                                flow.toBill().value(),
                                                flow.line()
                                                        .net(flow.toBill(), company.currency())
                                                        .amount()))
                                        .toList()))
                        .toList(),
                page.next());
    }

    private record ToBill(long customer, long order, ToBillRow row) {}

    /**
     * Invoices, newest first.
     *
     * @param open only those with something open
     * @param pastDue only those that should have been paid before today
     */
    @GetMapping("/invoices")
    InvoicePage invoices(
            @RequestParam(defaultValue = "false") boolean open,
            @RequestParam(defaultValue = "false") boolean pastDue,
            @RequestParam(required = false) String customer,
            @RequestParam(required = false) String after) {
        var parameters = new ArrayList<Object>();
        var where = new StringBuilder(after == null ? "1 = 1" : "i.id < ?");
        if (after != null) {
            parameters.add(Pages.key(after).number(0));
        }
        if (customer != null) {
            where.append(" and c.code = ?");
            parameters.add(customer);
        }
        if (open || pastDue) {
            where.append(" and i.open_amount > 0");
        }
        if (pastDue) {
            where.append(" and i.due_on < ?");
            parameters.add(LocalDate.now(clock));
        }
        var rows = jdbc.sql("select i.id, i.number, c.code, c.name, i.invoiced_on, i.due_on, i.gross, i.open_amount,"
                        + " i.reversed_on is not null from invoice i join customer c on c.id ="
                        + " i.customer_id where " + where
                        + " order by i.id desc fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> new KeyedInvoice(
                        r.getLong(1),
                        new InvoiceRow(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getObject(5, LocalDate.class),
                                r.getObject(6, LocalDate.class),
                                state(r.getBigDecimal(7), r.getBigDecimal(8), r.getBoolean(9)),
                                company.money(r.getBigDecimal(7)).amount(),
                                company.money(r.getBigDecimal(8)).amount())))
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new InvoicePage(page.rows().stream().map(KeyedInvoice::row).toList(), page.next());
    }

    private record KeyedInvoice(long id, InvoiceRow row) {}

    /** Payments, newest first. */
    @GetMapping("/payments")
    PaymentPage payments(@RequestParam(required = false) String after) {
        var rows = jdbc.sql("select " + PAYMENT
                        + " from payment p join customer c on c.id = p.customer_id where p.id < ? order by"
                        + " p.id desc fetch first 101 rows only")
                .param(after == null ? Long.MAX_VALUE : Pages.key(after).number(0))
                .query((r, n) -> new KeyedPayment(r.getLong(12), payment(r, List.of())))
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new PaymentPage(page.rows().stream().map(KeyedPayment::row).toList(), page.next());
    }

    private record KeyedPayment(long id, PaymentView row) {}
}
