package app.euthyna.server.returns;

import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Crediting.Share;
import app.euthyna.core.returns.Returning.Came;
import app.euthyna.core.returns.Returning.OfDispatch;
import app.euthyna.core.returns.Returning.OfInvoice;
import app.euthyna.core.returns.Returning.Verdict;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.May;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Returns and credit notes over HTTP. */
@RestController
@RequestMapping("/api")
class ReturnsController {

    private final ReturnsService returns;
    private final ChainReader chains;
    private final Commands commands;
    private final Company company;
    private final JdbcClient jdbc;

    ReturnsController(ReturnsService returns, ChainReader chains, Commands commands, Company company, JdbcClient jdbc) {
        this.returns = returns;
        this.chains = chains;
        this.commands = commands;
        this.company = company;
        this.jdbc = jdbc;
    }

    /** Goods of a line of a dispatch or an invoice; one of the two is named. */
    record ReturnedShare(String dispatch, String invoice, int line, @NotNull BigDecimal quantity) {
    }

    record Authorisation(@NotEmpty @Size(max = 500) List<@Valid ReturnedShare> lines, @NotBlank @Size(max = 60) String reason, @Size(max = 2000) String remark, LocalDate date) {
    }

    record ArrivedLine(int line, @NotNull BigDecimal quantity) {
    }

    /** What came; all that is expected without lines. */
    record Arrived(@Size(max = 500) List<@Valid ArrivedLine> lines, Long version, LocalDate date) {
    }

    /**
     * What becomes of a line's goods.
     *
     * @param site where they are restocked; where they left from, unless given
     */
    record InspectedLine(int line, BigDecimal restock, BigDecimal scrap, BigDecimal sendBack, String site, @Size(max = 2000) String remark) {
    }

    record Inspected(@NotEmpty @Size(max = 500) List<@Valid InspectedLine> lines, Long version, LocalDate date) {
    }

    record Withdrawal(@NotNull @Size(max = 2000) String reason, Long version, LocalDate date) {
    }

    /** What is credited of an invoice line: a quantity or an amount of its net. */
    record CreditedShare(int line, BigDecimal quantity, BigDecimal amount) {
    }

    /** Credits what came back of a return, or lines of an invoice without goods; without lines, all that is left of it. */
    record CreditAsked(String ofReturn, String ofInvoice, @Size(max = 500) List<@Valid CreditedShare> lines, @Size(max = 2000) String reason, LocalDate date) {
    }

    /**
     * A line of a return.
     *
     * @param awaited what may still come
     * @param creditable billed, here and not credited
     */
    record ReturnLineView(int no, String order, int orderLine, String dispatch, int dispatchLine, String invoice, Integer invoiceLine, String item, String description, String site,
            BigDecimal authorised, BigDecimal received, BigDecimal inInspection, BigDecimal awaited, BigDecimal creditable, BigDecimal restocked, BigDecimal scrapped, BigDecimal sentBack) {
    }

    record ReturnView(String number, String customer, String customerName, LocalDate on, String reason, String remark, boolean withdrawn, boolean expects, boolean inspecting,
            long version, List<ReturnLineView> lines, List<String> credits) {
    }

    record ReturnRow(String number, String customer, String customerName, LocalDate on, String reason, String state, LocalDate receivedOn) {
    }

    record ReturnPage(List<ReturnRow> rows, String next) {
    }

    record CreditLineView(int no, int invoiceLine, String order, String returnNumber, String item, String description, BigDecimal quantity, BigDecimal net, BigDecimal fee,
            String vatCategory, BigDecimal vatRate) {
    }

    /** @param left customer credit from it that is not put to use */
    record CreditNoteView(String number, String customer, String customerName, String invoice, LocalDate on, String reason, BigDecimal net, BigDecimal vat, BigDecimal gross,
            BigDecimal left, List<CreditLineView> lines) {
    }

    record CreditNotes(List<String> numbers) {
    }

    record CreditNoteRow(String number, String customer, String customerName, String invoice, LocalDate on, String reason, BigDecimal gross, BigDecimal left) {
    }

    record CreditNotePage(List<CreditNoteRow> rows, String next) {
    }

    @May.Propose
    @PostMapping("/returns")
    ReturnView authorise(@Valid @RequestBody Authorisation request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            var dispatched = request.lines().stream().filter(l -> l.dispatch() != null).map(l -> new OfDispatch(new LineRef(l.dispatch(), l.line()), quantity(l.quantity()))).toList();
            var invoiced = request.lines().stream().filter(l -> l.dispatch() == null && l.invoice() != null)
                    .map(l -> new OfInvoice(new LineRef(l.invoice(), l.line()), quantity(l.quantity()))).toList();
            return view(returns.authorise(context.on(request.date()).because(request.remark()), dispatched, invoiced, request.reason()));
        });
    }

    @May.MoveGoods
    @PostMapping("/returns/{number}/receipts")
    ReturnView receive(@PathVariable String number, @Valid @RequestBody Arrived request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            returns.receive(context.on(request.date()), number, request.version(), request.lines() == null ? List.of()
                    : request.lines().stream().map(l -> new Came(l.line(), quantity(l.quantity()))).toList());
            return view(number);
        });
    }

    @May.MoveGoods
    @PostMapping("/returns/{number}/inspections")
    ReturnView inspect(@PathVariable String number, @Valid @RequestBody Inspected request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            var verdicts = new ArrayList<Verdict>();
            request.lines().forEach(line -> {
                add(verdicts, line, Return.Outcome.Kind.RESTOCK, line.restock());
                add(verdicts, line, Return.Outcome.Kind.SCRAP, line.scrap());
                add(verdicts, line, Return.Outcome.Kind.SEND_BACK, line.sendBack());
            });
            returns.inspect(context.on(request.date()), number, request.version(), verdicts);
            return view(number);
        });
    }

    private static void add(List<Verdict> verdicts, InspectedLine line, Return.Outcome.Kind kind, BigDecimal quantity) {
        if (quantity != null && quantity.signum() != 0) {
            verdicts.add(new Verdict(line.line(), kind, quantity(quantity), line.site(), Texts.given(line.remark())));
        }
    }

    private static Quantity quantity(BigDecimal given) {
        if (given.stripTrailingZeros().scale() > Quantity.DECIMALS) {
            throw new RefusedException(CommonRefusal.Incomplete.of("quantity", "a quantity with at most 3 decimals"));
        }
        return new Quantity(given);
    }

    @May.Propose
    @PostMapping("/returns/{number}/withdrawals")
    ReturnView withdraw(@PathVariable String number, @Valid @RequestBody Withdrawal request, HttpServletRequest http) {
        return commands.run(http, request, ReturnView.class, context -> {
            returns.withdraw(context.on(request.date()).because(request.reason()), number, request.version());
            return view(number);
        });
    }

    @May.Bill
    @PostMapping("/credit-notes")
    CreditNotes credit(@Valid @RequestBody CreditAsked request, HttpServletRequest http) {
        return commands.run(http, request, CreditNotes.class, context -> {
            var on = context.on(request.date()).because(request.reason());
            if (request.ofReturn() != null) {
                return new CreditNotes(returns.creditReturn(on, request.ofReturn()));
            }
            if (request.ofInvoice() == null) {
                throw new RefusedException(CommonRefusal.Incomplete.of("ofInvoice", "the invoice or the return that is credited"));
            }
            var shares = request.lines() == null ? List.<Share>of() : request.lines().stream().map(l -> l.amount() != null ? Share.of(l.line(), company.money(l.amount()))
                    : Share.of(l.line(), l.quantity() == null ? Quantity.ZERO : quantity(l.quantity()))).toList();
            return new CreditNotes(List.of(returns.creditInvoice(on, request.ofInvoice(), shares)));
        });
    }

    @GetMapping("/returns/{number}")
    ReturnView view(@PathVariable String number) {
        var order = jdbc.sql("select o.number from goods_return g join return_line l on l.return_id = g.id join sales_order o on o.id = l.root_order_id where g.number = ? "
                + "order by l.line_no fetch first 1 rows only").param(number).query(String.class).optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("return", number)));
        var goods = chains.chain(order).returnOf(number).orElseThrow();
        var due = Crediting.due(goods, chains.chains(goods.lines().stream().map(l -> l.orderLine().number()).distinct().toList()).values().stream()
                .flatMap(chain -> chain.credits().stream()).distinct().toList());
        var lines = goods.lines().stream().map(line -> new ReturnLineView(line.no(), line.orderLine().number(), line.orderLine().line(), line.dispatchLine().number(),
                line.dispatchLine().line(), line.invoiceLine().map(LineRef::number).orElse(null), line.invoiceLine().map(LineRef::line).orElse(null), line.item(),
                jdbc.sql("select name from item where code = ?").param(line.item()).query(String.class).single(), line.site(), line.authorised().value(), line.received().value(),
                line.inInspection().value(), goods.expected(line).value(), creditable(goods, line, due), outcome(line, Return.Outcome.Kind.RESTOCK), outcome(line, Return.Outcome.Kind.SCRAP), outcome(line, Return.Outcome.Kind.SEND_BACK)))
                .toList();
        var credits = jdbc.sql("select distinct k.number from credit_note k join credit_note_line l on l.credit_note_id = k.id join goods_return g on g.id = l.return_id where g.number = ? "
                + "order by 1").param(number).query(String.class).list();
        return jdbc.sql("select g.number, c.code, c.name, g.authorised_on, g.reason_code, g.remark, g.withdrawn, g.expects, g.inspecting, g.version from goods_return g "
                + "join customer c on c.id = g.customer_id where g.number = ?").param(number).query((r, n) -> new ReturnView(r.getString(1), r.getString(2), r.getString(3),
                        r.getObject(4, LocalDate.class), r.getString(5), r.getString(6), r.getBoolean(7), r.getBoolean(8), r.getBoolean(9), r.getLong(10), lines, credits)).single();
    }

    private static BigDecimal creditable(Return goods, Return.Line line, Map<String, List<Share>> due) {
        var ref = new LineRef(goods.number(), line.no());
        return Quantity.sum(due.values().stream().flatMap(List::stream).filter(share -> share.returnLine().filter(ref::equals).isPresent()).map(Share::quantity).toList()).value();
    }

    private static BigDecimal outcome(Return.Line line, Return.Outcome.Kind kind) {
        return Quantity.sum(line.parts().stream().flatMap(p -> p.outcomes().stream()).filter(o -> o.kind() == kind).map(Return.Outcome::quantity).toList()).value();
    }

    /** Returns, newest first: all, those of which more is expected, or those in inspection. */
    @GetMapping("/returns")
    ReturnPage list(@RequestParam(required = false) String state, @RequestParam(required = false) String customer, @RequestParam(required = false) String after) {
        var where = new StringBuilder("g.id < ?");
        var parameters = new ArrayList<Object>(List.of(after == null ? Long.MAX_VALUE : Pages.key(after).number(0)));
        if (customer != null) {
            where.append(" and c.code = ?");
            parameters.add(customer);
        }
        where.append("expected".equals(state) ? " and g.expects = true" : "inspecting".equals(state) ? " and g.inspecting = true" : "");
        var rows = jdbc.sql("select g.id, g.number, c.code, c.name, g.authorised_on, g.reason_code, g.received_on, g.withdrawn, g.expects, g.inspecting from goods_return g "
                + "join customer c on c.id = g.customer_id where " + where + " order by g.id desc fetch first 101 rows only").params(parameters)
                .query((r, n) -> new Keyed(r.getLong(1), new ReturnRow(r.getString(2), r.getString(3), r.getString(4), r.getObject(5, LocalDate.class), r.getString(6),
                        r.getBoolean(10) ? "IN_INSPECTION" : r.getBoolean(9) ? "EXPECTED" : r.getObject(7) == null ? "WITHDRAWN" : "RECEIVED", r.getObject(7, LocalDate.class)))).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new ReturnPage(page.rows().stream().map(Keyed::row).toList(), page.next());
    }

    private record Keyed(long id, ReturnRow row) {
    }

    /** Credit notes, newest first; of one customer, or those of which something is still to the customer's credit. */
    @GetMapping("/credit-notes")
    CreditNotePage creditNotes(@RequestParam(required = false) String customer, @RequestParam(defaultValue = "false") boolean open, @RequestParam(required = false) String after) {
        var where = new StringBuilder("k.id < ?");
        var parameters = new ArrayList<Object>(List.of(after == null ? Long.MAX_VALUE : Pages.key(after).number(0)));
        if (customer != null) {
            where.append(" and c.code = ?");
            parameters.add(customer);
        }
        where.append(open ? " and p.left_amount > 0" : "");
        var rows = jdbc.sql("select k.id, k.number, c.code, c.name, i.number, k.credited_on, k.reason, k.gross, p.left_amount from credit_note k join customer c on c.id = k.customer_id "
                + "join invoice i on i.id = k.invoice_id join payment p on p.number = k.number where " + where + " order by k.id desc fetch first 101 rows only").params(parameters)
                .query((r, n) -> new KeyedCredit(r.getLong(1), new CreditNoteRow(r.getString(2), r.getString(3), r.getString(4), r.getString(5), r.getObject(6, LocalDate.class),
                        r.getString(7), company.money(r.getBigDecimal(8)).amount(), company.money(r.getBigDecimal(9)).amount()))).list();
        var page = Pages.of(rows, row -> List.of(String.valueOf(row.id())));
        return new CreditNotePage(page.rows().stream().map(KeyedCredit::row).toList(), page.next());
    }

    private record KeyedCredit(long id, CreditNoteRow row) {
    }

    @GetMapping("/credit-notes/{number}")
    CreditNoteView creditNote(@PathVariable String number) {
        var lines = jdbc.sql("""
                select l.line_no, l.invoice_line_no, o.number, g.number, l.item_code, l.description, l.quantity, l.net, l.fee, l.vat_category, l.vat_rate
                from credit_note k join credit_note_line l on l.credit_note_id = k.id join sales_order o on o.id = l.root_order_id left join goods_return g on g.id = l.return_id
                where k.number = ? order by l.line_no""").param(number).query((r, n) -> new CreditLineView(r.getInt(1), r.getInt(2), r.getString(3), r.getString(4), r.getString(5),
                        r.getString(6), new Quantity(r.getBigDecimal(7)).value(), company.money(r.getBigDecimal(8)).amount(), company.money(r.getBigDecimal(9)).amount(),
                        r.getString(10), r.getBigDecimal(11))).list();
        return jdbc.sql("""
                select k.number, c.code, c.name, i.number, k.credited_on, k.reason, k.net, k.vat, k.gross, p.left_amount from credit_note k join customer c on c.id = k.customer_id
                join invoice i on i.id = k.invoice_id join payment p on p.number = k.number where k.number = ?""").param(number)
                .query((r, n) -> new CreditNoteView(r.getString(1), r.getString(2), r.getString(3), r.getString(4), r.getObject(5, LocalDate.class), r.getString(6),
                        company.money(r.getBigDecimal(7)).amount(), company.money(r.getBigDecimal(8)).amount(), company.money(r.getBigDecimal(9)).amount(),
                        company.money(r.getBigDecimal(10)).amount(), lines)).optional().orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("credit note", number)));
    }
}
