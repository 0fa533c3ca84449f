package app.euthyna.server.returns;

import app.euthyna.core.returns.Crediting.Share;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Permissions;
import app.euthyna.server.platform.Quantities;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Credit notes over HTTP, and what becomes of what they leave. */
@RestController
@RequestMapping("/api/credit-notes")
class CreditNoteController {

    private final CreditService credits;
    private final Commands commands;
    private final Company company;
    private final CreditNoteQueries queries;

    CreditNoteController(CreditService credits, Commands commands, Company company, CreditNoteQueries queries) {
        this.credits = credits;
        this.commands = commands;
        this.company = company;
        this.queries = queries;
    }

    /** What is credited of an invoice line: a quantity or an amount of its net. */
    record CreditedShare(int line, BigDecimal quantity, BigDecimal amount) {}

    /**
     * Credits what came back of a return, with {@code ahead} what is still expected too; or without goods lines of an
     * invoice, all that is left of it where no line is named, or what is left of all that was billed of an order or a
     * dispatch.
     */
    record CreditAsked(
            String ofReturn,
            Boolean ahead,
            String ofInvoice,
            String ofOrder,
            String ofDispatch,
            @Size(max = 500) List<@Valid CreditedShare> lines,
            @Size(max = 2000) String reason,
            LocalDate date) {}

    record CreditLineView(
            int no,
            int invoiceLine,
            String order,
            @Nullable String returnNumber,
            String item,
            String description,
            BigDecimal quantity,
            BigDecimal net,
            BigDecimal fee,
            BigDecimal feePercent,
            String vatCategory,
            BigDecimal vatRate) {}

    /** VAT of one category and rate. */
    record CreditBand(String category, BigDecimal rate, BigDecimal taxable, BigDecimal vat) {}

    /**
     * What a part of a credit note was put to: an invoice that it is set against, or a refund.
     *
     * @param kind INVOICE or REFUND
     */
    record CreditPutTo(String kind, String number, BigDecimal amount, LocalDate on) {}

    /**
     * A credit note.
     *
     * @param left customer credit from it that is not used
     * @param wish what is to become of that; null as long as nobody said
     * @param version to be refunded with a refund
     */
    record CreditNoteView(
            String number,
            String customer,
            String customerName,
            String invoice,
            LocalDate on,
            String reason,
            BigDecimal net,
            BigDecimal vat,
            BigDecimal gross,
            BigDecimal left,
            @Nullable LocalDate reversedOn,
            @Nullable CreditWish wish,
            long version,
            List<CreditLineView> lines,
            List<CreditBand> bands,
            List<CreditPutTo> uses) {}

    record CreditNotes(List<String> numbers) {}

    record CreditNoteRow(
            String number,
            String customer,
            String customerName,
            String invoice,
            LocalDate on,
            String reason,
            BigDecimal gross,
            BigDecimal left,
            @Nullable LocalDate reversedOn) {}

    record CreditNotePage(
            List<CreditNoteRow> rows, @Nullable String next) {}

    @Permissions.Bill
    @PostMapping
    CreditNotes credit(@Valid @RequestBody CreditAsked request, HttpServletRequest http) {
        return commands.run(http, request, CreditNotes.class, context -> {
            var on = context.given(request.date(), request.reason());
            if (request.ofReturn() != null) {
                return new CreditNotes(
                        credits.creditReturn(on, request.ofReturn(), Boolean.TRUE.equals(request.ahead())));
            }
            if (request.ofOrder() != null) {
                return new CreditNotes(credits.creditOf(on, DocumentRef.order(request.ofOrder())));
            }
            if (request.ofDispatch() != null) {
                return new CreditNotes(
                        credits.creditOf(on, new DocumentRef(DocumentKind.DISPATCH, request.ofDispatch())));
            }
            if (request.ofInvoice() == null) {
                throw new RefusedException(
                        CommonRefusal.Incomplete.of("ofInvoice", "the invoice or the return that is credited"));
            }
            var shares = request.lines() == null
                    ? List.<Share>of()
                    : request.lines().stream()
                            .map(l -> l.amount() != null
                                    ? Share.of(l.line(), company.given("lines[" + l.line() + "].amount", l.amount()))
                                    : Share.of(
                                            l.line(),
                                            l.quantity() == null
                                                    ? Quantity.ZERO
                                                    : Quantities.given("quantity", l.quantity())))
                            .toList();
            return new CreditNotes(List.of(credits.creditInvoice(on, request.ofInvoice(), shares)));
        });
    }

    /**
     * Credit notes, newest first; of one customer, those of which something is still to the customer's credit, or of
     * which one thing is to become.
     */
    @GetMapping
    CreditNotePage creditNotes(
            @RequestParam(required = false) String customer,
            @RequestParam(defaultValue = "false") boolean open,
            @RequestParam(required = false) CreditWish wish,
            @RequestParam(required = false) String after) {
        var page = Pages.of(
                queries.page(
                        customer,
                        wish == null ? null : wish.name(),
                        open,
                        after == null ? null : Pages.key(after).number(0)),
                row -> List.of(String.valueOf(row.id())));
        return new CreditNotePage(
                page.rows().stream()
                        .map(row -> new CreditNoteRow(
                                row.number(),
                                row.customer(),
                                row.customerName(),
                                row.invoice(),
                                row.creditedOn(),
                                row.reason(),
                                company.money(row.gross()).amount(),
                                company.money(row.leftAmount()).amount(),
                                row.reversedOn()))
                        .toList(),
                page.next());
    }

    /** What is left to credit of an invoice's line. */
    record LeftToCredit(int line, BigDecimal quantity, BigDecimal net) {}

    record LeftOfInvoice(List<LeftToCredit> lines) {}

    @GetMapping("/left")
    LeftOfInvoice left(@RequestParam String invoice) {
        return new LeftOfInvoice(credits.leftToCredit(invoice).stream()
                .map(left -> new LeftToCredit(
                        left.invoiceLine(), left.quantity().value(), left.net().amount()))
                .toList());
    }

    @GetMapping("/{number}")
    CreditNoteView creditNote(@PathVariable String number) {
        var lines = queries.lines(number).stream()
                .map(row -> new CreditLineView(
                        row.lineNo(),
                        row.invoiceLineNo(),
                        row.order(),
                        row.goodsReturn(),
                        row.itemCode(),
                        row.description(),
                        new Quantity(row.quantity()).value(),
                        company.money(row.net()).amount(),
                        company.money(row.fee()).amount(),
                        row.feePercent(),
                        row.vatCategory().name(),
                        row.vatRate()))
                .toList();
        var bands = queries.bands(number).stream()
                .map(row -> new CreditBand(
                        row.vatCategory().name(),
                        row.vatRate(),
                        company.money(row.taxable()).amount(),
                        company.money(row.tax()).amount()))
                .toList();
        var uses = new ArrayList<>(queries.settled(number).stream()
                .map(row -> new CreditPutTo(
                        "INVOICE", row.invoice(), company.money(row.amount()).amount(), row.allocatedOn()))
                .toList());
        uses.addAll(queries.refunds(number).stream()
                .map(row -> new CreditPutTo(
                        "REFUND", row.number(), company.money(row.amount()).amount(), row.refundedOn()))
                .toList());
        return queries.header(number)
                .map(row -> new CreditNoteView(
                        row.number(),
                        row.customer(),
                        row.customerName(),
                        row.invoice(),
                        row.creditedOn(),
                        row.reason(),
                        company.money(row.net()).amount(),
                        company.money(row.vat()).amount(),
                        company.money(row.gross()).amount(),
                        company.money(row.leftAmount()).amount(),
                        row.reversedOn(),
                        CreditWish.stored(row.wish()),
                        row.version(),
                        lines,
                        bands,
                        uses))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("credit note", number)));
    }

    /** What is to become of the customer credit that a credit note leaves; null takes back what was said. */
    record WrittenWish(CreditWish wish) {}

    @Permissions.Bill
    @PutMapping("/{number}/wish")
    CreditNoteView wish(@PathVariable String number, @Valid @RequestBody WrittenWish request, HttpServletRequest http) {
        return commands.run(http, request, CreditNoteView.class, context -> {
            credits.wish(context, number, request.wish());
            return creditNote(number);
        });
    }
}
