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
import org.springframework.jdbc.core.simple.JdbcClient;
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

    private final ReturnsService returns;
    private final Commands commands;
    private final Company company;
    private final JdbcClient jdbc;

    CreditNoteController(ReturnsService returns, Commands commands, Company company, JdbcClient jdbc) {
        this.returns = returns;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
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
            BigDecimal left) {}

    record CreditNotePage(
            List<CreditNoteRow> rows, @Nullable String next) {}

    @Permissions.Bill
    @PostMapping
    CreditNotes credit(@Valid @RequestBody CreditAsked request, HttpServletRequest http) {
        return commands.run(http, request, CreditNotes.class, context -> {
            var on = context.given(request.date(), request.reason());
            if (request.ofReturn() != null) {
                return new CreditNotes(
                        returns.creditReturn(on, request.ofReturn(), Boolean.TRUE.equals(request.ahead())));
            }
            if (request.ofOrder() != null) {
                return new CreditNotes(returns.creditOf(on, DocumentRef.order(request.ofOrder())));
            }
            if (request.ofDispatch() != null) {
                return new CreditNotes(
                        returns.creditOf(on, new DocumentRef(DocumentKind.DISPATCH, request.ofDispatch())));
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
            return new CreditNotes(List.of(returns.creditInvoice(on, request.ofInvoice(), shares)));
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
        var where = new StringBuilder("k.id < ?");
        var parameters = new ArrayList<Object>(
                List.of(after == null ? Long.MAX_VALUE : Pages.key(after).number(0)));
        if (customer != null) {
            where.append(" and c.code = ?");
            parameters.add(customer);
        }
        if (wish != null) {
            where.append(" and k.wish = ?");
            parameters.add(wish.name());
        }
        where.append(open ? " and p.left_amount > 0" : "");
        var rows = jdbc.sql("select k.id, k.number, c.code, c.name, i.number, k.credited_on, k.reason, k.gross,"
                        + " p.left_amount from credit_note k join customer c on c.id = k.customer_id join invoice"
                        + " i on i.id = k.invoice_id join payment p on p.number = k.number where "
                        + where + " order by k.id desc fetch first 101 rows only")
                .params(parameters)
                .query((r, n) -> new Keyed(
                        r.getLong(1),
                        new CreditNoteRow(
                                r.getString(2),
                                r.getString(3),
                                r.getString(4),
                                r.getString(5),
                                r.getObject(6, LocalDate.class),
                                r.getString(7),
                                company.money(r.getBigDecimal(8)).amount(),
                                company.money(r.getBigDecimal(9)).amount())))
                .list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new CreditNotePage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    private record Keyed(long id, CreditNoteRow row) {}

    /** What is left to credit of an invoice's line. */
    record LeftToCredit(int line, BigDecimal quantity, BigDecimal net) {}

    record LeftOfInvoice(List<LeftToCredit> lines) {}

    @GetMapping("/left")
    LeftOfInvoice left(@RequestParam String invoice) {
        return new LeftOfInvoice(returns.leftToCredit(invoice).stream()
                .map(left -> new LeftToCredit(
                        left.invoiceLine(), left.quantity().value(), left.net().amount()))
                .toList());
    }

    @GetMapping("/{number}")
    CreditNoteView creditNote(@PathVariable String number) {
        var lines = jdbc.sql("""
            select l.line_no, l.invoice_line_no, o.number, g.number, l.item_code, l.description, l.quantity, l.net,
                l.fee, l.fee_percent, l.vat_category, l.vat_rate
            from credit_note k join credit_note_line l on l.credit_note_id = k.id
            join sales_order o on o.id = l.root_order_id left join goods_return g on g.id = l.return_id
            where k.number = ? order by l.line_no\
            """)
                .param(number)
                .query((r, n) -> new CreditLineView(
                        r.getInt(1),
                        r.getInt(2),
                        r.getString(3),
                        r.getString(4),
                        r.getString(5),
                        r.getString(6),
                        new Quantity(r.getBigDecimal(7)).value(),
                        company.money(r.getBigDecimal(8)).amount(),
                        company.money(r.getBigDecimal(9)).amount(),
                        r.getBigDecimal(10),
                        r.getString(11),
                        r.getBigDecimal(12)))
                .list();
        var bands = jdbc.sql(
                        "select v.vat_category, v.vat_rate, v.taxable, v.tax from credit_note k join credit_note_vat v"
                                + " on v.credit_note_id = k.id where k.number = ? order by 1, 2")
                .param(number)
                .query((r, n) -> new CreditBand(
                        r.getString(1),
                        r.getBigDecimal(2),
                        company.money(r.getBigDecimal(3)).amount(),
                        company.money(r.getBigDecimal(4)).amount()))
                .list();
        var uses = new ArrayList<>(jdbc.sql("""
            select i.number, sum(a.amount), max(a.allocated_on) from payment p
            join allocation a on a.payment_id = p.id join invoice i on i.id = a.invoice_id
            where p.number = ? group by i.id, i.number having sum(a.amount) <> 0 order by max(a.allocated_on), i.id\
            """)
                .param(number)
                .query((r, n) -> new CreditPutTo(
                        "INVOICE",
                        r.getString(1),
                        company.money(r.getBigDecimal(2)).amount(),
                        r.getObject(3, LocalDate.class)))
                .list());
        uses.addAll(jdbc.sql("select number, amount, refunded_on from refund where source_kind = 'CREDIT_NOTE' and"
                        + " source_number = ? and reversed_on is null order by id")
                .param(number)
                .query((r, n) -> new CreditPutTo(
                        "REFUND",
                        r.getString(1),
                        company.money(r.getBigDecimal(2)).amount(),
                        r.getObject(3, LocalDate.class)))
                .list());
        return jdbc.sql("""
            select k.number, c.code, c.name, i.number, k.credited_on, k.reason, k.net, k.vat, k.gross, p.left_amount,
                k.wish, p.version from credit_note k
            join customer c on c.id = k.customer_id join invoice i on i.id = k.invoice_id
            join payment p on p.number = k.number where k.number = ?\
            """)
                .param(number)
                .query((r, n) -> new CreditNoteView(
                        r.getString(1),
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        r.getObject(5, LocalDate.class),
                        r.getString(6),
                        company.money(r.getBigDecimal(7)).amount(),
                        company.money(r.getBigDecimal(8)).amount(),
                        company.money(r.getBigDecimal(9)).amount(),
                        company.money(r.getBigDecimal(10)).amount(),
                        CreditWish.stored(r.getString(11)),
                        r.getLong(12),
                        lines,
                        bands,
                        uses))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("credit note", number)));
    }

    /** What is to become of the customer credit that a credit note leaves; null takes back what was said. */
    record WrittenWish(CreditWish wish) {}

    @Permissions.Bill
    @PutMapping("/{number}/wish")
    CreditNoteView wish(@PathVariable String number, @Valid @RequestBody WrittenWish request, HttpServletRequest http) {
        return commands.run(http, request, CreditNoteView.class, context -> {
            returns.wish(context, number, request.wish());
            return creditNote(number);
        });
    }
}
