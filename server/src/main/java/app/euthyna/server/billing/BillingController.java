package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.order.LineKind;
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
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
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
    private final InvoiceQueries queries;
    private final DirectInvoicing direct;

    BillingController(
            BillingService billing,
            ChainReader chains,
            Commands commands,
            Company company,
            InvoiceQueries queries,
            DocumentDetails details,
            DirectInvoicing direct,
            Batches batches) {
        this.batches = batches;
        this.direct = direct;
        this.details = details;
        this.billing = billing;
        this.chains = chains;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
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
        return new CreditView(code, company.money(queries.credit(code)).amount());
    }

    @GetMapping("/invoices/{number}")
    InvoiceView invoice(@PathVariable String number) {
        record Gone(String dispatch, BigDecimal quantity) {}
        var gone = new HashMap<Integer, List<Gone>>();
        queries.gone(number)
                .forEach(row -> gone.computeIfAbsent(row.lineNo(), no -> new ArrayList<>())
                        .add(new Gone(row.dispatch(), row.quantity())));
        var lines = queries.lines(number).stream()
                .map(row -> {
                    var brought = gone.getOrDefault(row.lineNo(), List.of());
                    var ahead = row.kind() == LineKind.STOCK
                            ? brought.stream().map(Gone::quantity).reduce(row.quantity(), BigDecimal::subtract)
                            : BigDecimal.ZERO;
                    return new InvoiceLineView(
                            row.lineNo(),
                            row.order(),
                            row.orderLineNo(),
                            row.po(),
                            brought.stream().map(Gone::dispatch).distinct().toList(),
                            row.itemCode(),
                            row.description(),
                            new Quantity(row.quantity()).value(),
                            row.unitPrice(),
                            row.discountPercent(),
                            company.money(row.net()).amount(),
                            row.vatCategory().name(),
                            row.vatRate(),
                            new Quantity(ahead).value());
                })
                .toList();
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
        return queries.header(number)
                .map(row -> new InvoiceView(
                        row.number(),
                        row.customer(),
                        row.customerName(),
                        row.invoicedOn(),
                        row.dueOn(),
                        state(row.gross(), row.openAmount(), row.reversed()),
                        company.money(row.net()).amount(),
                        company.money(row.vat()).amount(),
                        company.money(row.gross()).amount(),
                        company.money(row.openAmount()).amount(),
                        row.text(),
                        row.version(),
                        details.of("INVOICE", number),
                        lines,
                        bands))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("invoice", number)));
    }

    private String state(BigDecimal gross, BigDecimal open, boolean reversed) {
        return OpenInvoice.state(company.money(gross), company.money(open), reversed)
                .name();
    }

    @GetMapping("/payments/{number}")
    PaymentView payment(@PathVariable String number) {
        var allocations = queries.settled(number).stream()
                .map(row -> new AllocationView(
                        row.invoice(), company.money(row.amount()).amount()))
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

    /** Orders with something to bill, grouped by customer. */
    @GetMapping("/billing/to-bill")
    ToBillPage toBill(@RequestParam(required = false) String after) {
        var key = after == null ? new Pages.Key(List.of("0", "0")) : Pages.key(after);
        var rows = queries.toBill(key.number(0), key.number(1)).stream()
                .map(row -> new ToBill(
                        row.customerId(),
                        row.orderId(),
                        new ToBillRow(
                                row.customer(),
                                row.customerName(),
                                row.order(),
                                row.po(),
                                row.billableSince(),
                                company.money(row.billableNet()).amount(),
                                List.of())))
                .toList();
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
        var found = queries.page(
                customer,
                open || pastDue,
                pastDue ? company.today() : null,
                after == null ? null : Pages.key(after).number(0));
        var page = Pages.of(found, row -> List.of(String.valueOf(row.id())));
        return new InvoicePage(
                page.rows().stream()
                        .map(row -> new InvoiceRow(
                                row.number(),
                                row.customer(),
                                row.customerName(),
                                row.invoicedOn(),
                                row.dueOn(),
                                state(row.gross(), row.openAmount(), row.reversedOn() != null),
                                company.money(row.gross()).amount(),
                                company.money(row.openAmount()).amount()))
                        .toList(),
                page.next());
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
