package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.order.DocumentDetails;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.May;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
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
    private final Company company;
    private final JdbcClient jdbc;
    private final Clock clock;

    BillingController(BillingService billing, ChainReader chains, Commands commands, Company company, JdbcClient jdbc, Clock clock, DocumentDetails details) {
        this.details = details;
        this.clock = clock;
        this.billing = billing;
        this.chains = chains;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
    }

    record BilledLine(@NotBlank String order, int line, @NotNull BigDecimal quantity) {
    }

    /** Orders of one customer to be billed together; without lines, all that can be billed of them. */
    record Bill(@NotEmpty List<@NotBlank String> orders, List<@Valid BilledLine> lines, LocalDate date) {
    }

    record SettledInvoice(@NotBlank String invoice, @NotNull BigDecimal amount) {
    }

    record PaymentIn(@NotBlank String customer, @NotNull BigDecimal amount, List<@Valid SettledInvoice> allocate, LocalDate date) {
    }

    record CreditUse(@NotBlank String customer, @NotEmpty List<@Valid SettledInvoice> allocate, LocalDate date) {
    }

    record InvoiceLineView(int no, String order, int orderLine, String item, String description, BigDecimal quantity, BigDecimal price,
            BigDecimal discount, BigDecimal net, String vatCategory, BigDecimal vatRate) {
    }

    record InvoiceView(String number, String customer, String customerName, LocalDate on, LocalDate dueOn, String state, BigDecimal net,
            BigDecimal vat, BigDecimal gross, BigDecimal open, long version, List<DocumentDetails.CarriedDetails> details, List<InvoiceLineView> lines) {
    }

    record PaymentView(String number, String customer, String customerName, LocalDate on, BigDecimal amount, BigDecimal left) {
    }

    record CreditView(String customer, BigDecimal credit) {
    }

    record ToBillLine(int line, String item, String description, BigDecimal toBill, BigDecimal net) {
    }

    record ToBillRow(String customer, String customerName, String order, String po, LocalDate since, BigDecimal net,
            List<ToBillLine> lines) {
    }

    record ToBillPage(List<ToBillRow> rows, String next) {
    }

    record InvoiceRow(String number, String customer, String customerName, LocalDate on, LocalDate dueOn, String state, BigDecimal gross,
            BigDecimal open) {
    }

    record InvoicePage(List<InvoiceRow> rows, String next) {
    }

    record PaymentPage(List<PaymentView> rows, String next) {
    }

    @May.Bill
    @PostMapping("/invoices")
    InvoiceView bill(@Valid @RequestBody Bill request, HttpServletRequest http) {
        return commands.run(http, request, InvoiceView.class, context -> {
            var shares = request.lines() == null ? List.<Share>of() : request.lines().stream()
                    .map(l -> new Share(new LineRef(l.order(), l.line()), quantity(l))).toList();
            return invoice(billing.bill(context.on(request.date()), request.orders(), shares));
        });
    }

    private static Quantity quantity(BilledLine line) {
        if (line.quantity().stripTrailingZeros().scale() > Quantity.DECIMALS) {
            throw new RefusedException(CommonRefusal.Incomplete.of("lines[" + line.order() + "/" + line.line() + "].quantity",
                    "a quantity with at most 3 decimals"));
        }
        return new Quantity(line.quantity());
    }

    @May.Bill
    @PostMapping("/payments")
    PaymentView pay(@Valid @RequestBody PaymentIn request, HttpServletRequest http) {
        return commands.run(http, request, PaymentView.class, context -> payment(billing.receive(context.on(request.date()),
                request.customer(), company.given("amount", request.amount()), settlements(request.allocate()))));
    }

    @May.Bill
    @PostMapping("/credit-allocations")
    CreditView allocateCredit(@Valid @RequestBody CreditUse request, HttpServletRequest http) {
        return commands.run(http, request, CreditView.class, context -> {
            billing.allocateCredit(context.on(request.date()), request.customer(), settlements(request.allocate()));
            return credit(request.customer());
        });
    }

    private List<Settlement> settlements(List<SettledInvoice> allocate) {
        return allocate == null ? List.of() : allocate.stream()
                .map(a -> new Settlement(a.invoice(), company.given("allocate[" + a.invoice() + "].amount", a.amount()))).toList();
    }

    @GetMapping("/customers/{code}/credit")
    CreditView credit(@PathVariable String code) {
        return jdbc.sql("select coalesce(sum(p.left_amount), 0) from payment p join customer c on c.id = p.customer_id where c.code = ? and p.left_amount > 0")
                .param(code).query((r, n) -> new CreditView(code, company.money(r.getBigDecimal(1)).amount())).single();
    }

    @GetMapping("/invoices/{number}")
    InvoiceView invoice(@PathVariable String number) {
        var lines = jdbc.sql("""
                select l.line_no, o.number, l.order_line_no, l.item_code, l.description, l.quantity, l.unit_price, l.discount_percent, l.net,
                       l.vat_category, l.vat_rate
                from invoice i join invoice_line l on l.invoice_id = i.id join sales_order o on o.id = l.root_order_id
                where i.number = ? order by l.line_no""").param(number).query((r, n) -> new InvoiceLineView(r.getInt(1), r.getString(2),
                        r.getInt(3), r.getString(4), r.getString(5), new Quantity(r.getBigDecimal(6)).value(), r.getBigDecimal(7),
                        r.getBigDecimal(8), company.money(r.getBigDecimal(9)).amount(), r.getString(10), r.getBigDecimal(11))).list();
        return jdbc.sql("""
                select i.number, c.code, c.name, i.invoiced_on, i.due_on, i.net, i.vat, i.gross, i.open_amount, i.version
                from invoice i join customer c on c.id = i.customer_id where i.number = ?""").param(number)
                .query((r, n) -> new InvoiceView(r.getString(1), r.getString(2), r.getString(3), r.getObject(4, LocalDate.class),
                        r.getObject(5, LocalDate.class), state(r.getString(1), r.getString(2), r.getBigDecimal(8), r.getBigDecimal(9)),
                        company.money(r.getBigDecimal(6)).amount(), company.money(r.getBigDecimal(7)).amount(),
                        company.money(r.getBigDecimal(8)).amount(), company.money(r.getBigDecimal(9)).amount(), r.getLong(10), details.of("INVOICE", number), lines))
                .optional().orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("invoice", number)));
    }

    private String state(String number, String customer, BigDecimal gross, BigDecimal open) {
        return new OpenInvoice(number, customer, company.money(gross), company.money(open)).state().name();
    }

    @GetMapping("/payments/{number}")
    PaymentView payment(@PathVariable String number) {
        return jdbc.sql("""
                select p.number, c.code, c.name, p.received_on, p.amount, p.left_amount from payment p
                join customer c on c.id = p.customer_id where p.number = ?""").param(number).query((r, n) -> payment(r, n)).optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("payment", number)));
    }

    private PaymentView payment(ResultSet r, int n) throws SQLException {
        return new PaymentView(r.getString(1), r.getString(2), r.getString(3), r.getObject(4, LocalDate.class),
                company.money(r.getBigDecimal(5)).amount(), company.money(r.getBigDecimal(6)).amount());
    }

    /** Orders with something to bill, grouped by customer. */
    @GetMapping("/billing/to-bill")
    ToBillPage toBill(@RequestParam(required = false) String after) {
        var key = after == null ? new Pages.Key(new String[] {"0", "0"}) : Pages.key(after);
        var rows = jdbc.sql("""
                select x.customer_id, x.order_id, c.code, c.name, o.number, o.po, x.billable_since, x.billable_net
                from open_order x join sales_order o on o.id = x.order_id join customer c on c.id = x.customer_id
                where x.billable = true and (x.customer_id > ? or (x.customer_id = ? and x.order_id > ?))
                order by x.billable, x.customer_id, x.order_id fetch first 101 rows only""")
                .params(key.number(0), key.number(0), key.number(1))
                .query((r, n) -> new ToBill(r.getLong(1), r.getLong(2), new ToBillRow(r.getString(3), r.getString(4), r.getString(5),
                        r.getString(6), r.getObject(7, LocalDate.class), company.money(r.getBigDecimal(8)).amount(), List.of()))).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.customer()), String.valueOf(row.order())));
        var found = chains.chains(page.rows().stream().map(row -> row.row().order()).toList());
        return new ToBillPage(page.rows().stream().map(ToBill::row).map(row -> new ToBillRow(row.customer(), row.customerName(),
                row.order(), row.po(), row.since(), row.net(), found.get(row.order()).flows().stream()
                        .filter(flow -> flow.toBill().isPositive()).map(flow -> new ToBillLine(flow.line().no(), flow.line().item(),
                                flow.line().description(), flow.toBill().value(),
                                flow.line().net(flow.toBill(), company.currency()).amount())).toList())).toList(), page.next());
    }

    private record ToBill(long customer, long order, ToBillRow row) {
    }

    /**
     * Invoices, newest first.
     *
     * @param open only those with something open
     * @param pastDue only those that should have been paid before today
     */
    @GetMapping("/invoices")
    InvoicePage invoices(@RequestParam(defaultValue = "false") boolean open, @RequestParam(defaultValue = "false") boolean pastDue, @RequestParam(required = false) String customer,
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
        var rows = jdbc.sql("select i.id, i.number, c.code, c.name, i.invoiced_on, i.due_on, i.gross, i.open_amount from invoice i "
                + "join customer c on c.id = i.customer_id where " + where + " order by i.id desc fetch first 101 rows only")
                .params(parameters).query((r, n) -> new KeyedInvoice(r.getLong(1), new InvoiceRow(r.getString(2), r.getString(3),
                        r.getString(4), r.getObject(5, LocalDate.class), r.getObject(6, LocalDate.class),
                        state(r.getString(2), r.getString(3), r.getBigDecimal(7), r.getBigDecimal(8)),
                        company.money(r.getBigDecimal(7)).amount(), company.money(r.getBigDecimal(8)).amount()))).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new InvoicePage(page.rows().stream().map(KeyedInvoice::row).toList(), page.next());
    }

    private record KeyedInvoice(long id, InvoiceRow row) {
    }

    /** Payments, newest first. */
    @GetMapping("/payments")
    PaymentPage payments(@RequestParam(required = false) String after) {
        var rows = jdbc.sql("""
                select p.number, c.code, c.name, p.received_on, p.amount, p.left_amount, p.id from payment p
                join customer c on c.id = p.customer_id where p.id < ? order by p.id desc fetch first 101 rows only""")
                .param(after == null ? Long.MAX_VALUE : Pages.key(after).number(0))
                .query((r, n) -> new KeyedPayment(r.getLong(7), payment(r, n))).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new PaymentPage(page.rows().stream().map(KeyedPayment::row).toList(), page.next());
    }

    private record KeyedPayment(long id, PaymentView row) {
    }
}
