package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.order.OrderDraft;
import app.euthyna.server.order.WrittenLine;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Quantities;
import app.euthyna.server.platform.Texts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
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

/** Invoices and money over HTTP. */
@RestController
@RequestMapping("/api")
class BillingController {

    private final BillingService billing;
    private final Commands commands;
    private final Batches batches;
    private final DirectInvoicing direct;
    private final InvoiceViews views;

    BillingController(
            BillingService billing, Commands commands, DirectInvoicing direct, Batches batches, InvoiceViews views) {
        this.views = views;
        this.batches = batches;
        this.direct = direct;
        this.billing = billing;
        this.commands = commands;
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

    @GetMapping("/invoices/{number}")
    InvoiceViews.InvoiceView invoice(@PathVariable String number) {
        return views.of(number);
    }

    /** What there is to bill of some orders, line by line. */
    @GetMapping("/billing/to-bill")
    List<InvoiceViews.ToBillOrder> toBill(@RequestParam @Size(max = 500) List<String> orders) {
        return views.toBill(orders);
    }

    /**
     * Invoices, newest first.
     *
     * @param open only those with something open
     * @param pastDue only those that should have been paid before today
     */
    @GetMapping("/invoices")
    InvoiceViews.InvoicePage invoices(
            @RequestParam(defaultValue = "false") boolean open,
            @RequestParam(defaultValue = "false") boolean pastDue,
            @RequestParam(required = false) String customer,
            @RequestParam(required = false) String after) {
        return views.page(open, pastDue, customer, after);
    }

    @Permissions.Bill
    @PostMapping("/invoices")
    InvoiceViews.InvoiceView bill(@Valid @RequestBody Bill request, HttpServletRequest http) {
        return commands.run(http, request, InvoiceViews.InvoiceView.class, context -> {
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
    InvoiceViews.InvoiceView billDirectly(@Valid @RequestBody DirectInvoice request, HttpServletRequest http) {
        return commands.run(
                http,
                request,
                InvoiceViews.InvoiceView.class,
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
        return batches.run(
                http,
                request,
                context -> context.given(request.date(), request.reason()),
                Batches.Kind.BILLING,
                () -> request.invoices().stream()
                        .map(one -> new Batches.Asked(
                                DocumentKind.ORDER,
                                String.join(", ", one.orders()),
                                new BillingWork.Asked(one.orders(), text)))
                        .toList());
    }
}
