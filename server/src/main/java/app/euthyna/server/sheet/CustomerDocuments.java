package app.euthyna.server.sheet;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.server.billing.Statements;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.springframework.format.annotation.DateTimeFormat;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All documents of a customer as one statement, with what it owed behind each; or what of them is open. */
@RestController
@RequestMapping("/api/customers/{code}")
class CustomerDocuments {

    /** So many of one sort are read at once. */
    static final int PIECE = 500;

    private static final int A_WHOLE_DAY = 1_000_000;

    private final SheetQueries queries;
    private final Statements statements;
    private final Company company;
    private final Ids ids;

    CustomerDocuments(SheetQueries queries, Statements statements, Company company, Ids ids) {
        this.queries = queries;
        this.statements = statements;
        this.company = company;
        this.ids = ids;
    }

    /**
     * Something that happened to a document.
     *
     * @param reference the customer's PO, or the order that it belongs to
     * @param value gross of an order; it moves nothing
     * @param owed what it added to what the customer owes; less than zero where it took from it
     * @param balance what was owed after it
     */
    record DocumentLine(
            LocalDate on,
            DocumentKind kind,
            String number,
            String what,
            String reference,
            @Nullable BigDecimal value,
            BigDecimal owed,
            BigDecimal balance) {
        private DocumentLine with(BigDecimal after) {
            return new DocumentLine(on, kind, number, what, reference, value, owed, after);
        }
    }

    /**
     * The documents of some days.
     *
     * @param opening owed before them; what is owed is positive, credit of the customer negative
     * @param closing owed after those that are here
     * @param next the day with which the rest begins; null where this is all
     */
    record DocumentsView(
            LocalDate from,
            LocalDate to,
            BigDecimal opening,
            List<DocumentLine> rows,
            BigDecimal closing,
            @Nullable LocalDate next) {}

    /** What happened on one of some days, before it is put in sequence. */
    private record Happened(int sort, long id, DocumentLine line) {
        static final Comparator<Happened> IN_SEQUENCE =
                Comparator.comparing(Happened::on).thenComparing(Happened::sort).thenComparing(Happened::id);

        LocalDate on() {
            return line.on();
        }
    }

    @GetMapping("/documents")
    DocumentsView documents(
            @PathVariable String code,
            @RequestParam @DateTimeFormat(iso = DateTimeFormat.ISO.DATE) LocalDate from,
            @RequestParam @DateTimeFormat(iso = DateTimeFormat.ISO.DATE) LocalDate to) {
        if (from.isAfter(to)) {
            throw new RefusedException(CommonRefusal.Incomplete.of("from", "a day not after the last one"));
        }
        var customer = ids.customer(code);
        var sorts = sorts(customer, from, to, PIECE + 1);
        var cut = sorts.stream()
                .filter(sort -> sort.size() > PIECE)
                .map(sort -> sort.get(PIECE).on())
                .min(Comparator.naturalOrder());
        if (cut.filter(from::equals).isPresent()) {
            sorts = sorts(customer, from, from, A_WHOLE_DAY);
            cut = Optional.of(from.plusDays(1)).filter(day -> !day.isAfter(to));
        }
        var end = cut;
        var opening = company.money(statements.owedBefore(customer, from));
        var balance = opening;
        var rows = new ArrayList<DocumentLine>();
        for (var one : sorts.stream()
                .flatMap(List::stream)
                .filter(one -> end.isEmpty() || one.on().isBefore(end.get()))
                .sorted(Happened.IN_SEQUENCE)
                .map(Happened::line)
                .toList()) {
            balance = balance.plus(company.money(one.owed()));
            rows.add(one.with(balance.amount()));
        }
        return new DocumentsView(from, to, opening.amount(), rows, balance.amount(), end.orElse(null));
    }

    /** By sort, each by day: orders, goods that left and were taken back, returns, what moved what is owed. */
    private List<List<Happened>> sorts(long customer, LocalDate from, LocalDate to, int most) {
        var none = company.money(BigDecimal.ZERO).amount();
        return List.of(
                queries.orders(customer, from, to, most).stream()
                        .map(row -> new Happened(0, row.id(), line(DocumentKind.ORDER, row, "ordered")))
                        .toList(),
                queries.departures(customer, from, to, most).stream()
                        .map(row -> new Happened(1, row.id(), line(DocumentKind.DISPATCH, row, "left")))
                        .toList(),
                queries.dispatchesTakenBack(customer, from, to, most).stream()
                        .map(row -> new Happened(2, row.id(), line(DocumentKind.DISPATCH, row, "taken back")))
                        .toList(),
                queries.returns(customer, from, to, most).stream()
                        .map(row -> new Happened(3, row.id(), line(DocumentKind.RETURN, row, "authorised")))
                        .toList(),
                queries.received(customer, from, to, most).stream()
                        .map(row -> new Happened(4, row.id(), line(DocumentKind.RETURN, row, "received")))
                        .toList(),
                statements.moves(customer, from, to, most).stream()
                        .map(row -> new Happened(
                                5,
                                row.id(),
                                new DocumentLine(
                                        row.entryDate(),
                                        DocumentKind.valueOf(row.documentKind()),
                                        row.documentNumber(),
                                        row.event(),
                                        "",
                                        null,
                                        company.money(row.amount()).amount(),
                                        none)))
                        .toList());
    }

    private DocumentLine line(DocumentKind kind, SheetQueries.DocumentRow row, String what) {
        var none = company.money(BigDecimal.ZERO).amount();
        return new DocumentLine(
                row.happenedOn(),
                kind,
                row.number(),
                what,
                row.reference(),
                row.value() == null ? null : company.money(row.value()).amount(),
                none,
                none);
    }

    /**
     * A document of which something is open.
     *
     * @param what its state, in a word
     * @param dueOn when it is due or wanted; null where that is not said
     * @param toCome of an order, gross of what is not billed yet
     * @param open of what is owed: more than zero on an invoice, less than zero where money or credit is unused
     * @param balance the sum of what is open, this row included
     */
    record OpenLine(
            LocalDate on,
            DocumentKind kind,
            String number,
            String what,
            String reference,
            @Nullable LocalDate dueOn,
            @Nullable BigDecimal toCome,
            @Nullable BigDecimal open,
            BigDecimal balance) {}

    /**
     * What is open of a customer.
     *
     * @param toCome gross of what is ordered and not billed
     * @param owed on invoices, less what is unused
     * @param isAll whether there is no more than what stands in the rows
     */
    record OpenView(List<OpenLine> rows, BigDecimal toCome, BigDecimal owed, boolean isAll) {}

    private record Open(DocumentKind kind, String what, SheetQueries.OpenRow row) {}

    private static List<Open> open(List<SheetQueries.OpenRow> rows, DocumentKind kind) {
        return rows.stream().map(row -> new Open(kind, row.what(), row)).toList();
    }

    @GetMapping("/open-documents")
    OpenView open(@PathVariable String code) {
        var customer = ids.customer(code);
        var sorts = List.of(
                open(queries.openOrders(customer, PIECE + 1), DocumentKind.ORDER),
                open(queries.stagedDispatches(customer, PIECE + 1), DocumentKind.DISPATCH),
                open(queries.openReturns(customer, PIECE + 1), DocumentKind.RETURN),
                open(queries.unpaid(customer, PIECE + 1), DocumentKind.INVOICE),
                open(queries.unusedDeposits(customer, PIECE + 1), DocumentKind.DEPOSIT),
                queries.unusedMoney(customer, PIECE + 1).stream()
                        .map(row -> new Open(DocumentKind.valueOf(row.what()), "UNUSED", row))
                        .toList());
        var zero = company.money(BigDecimal.ZERO);
        var balance = zero;
        var toCome = zero;
        var rows = new ArrayList<OpenLine>();
        for (var one : sorts.stream()
                .flatMap(sort -> sort.stream().limit(PIECE))
                .sorted(Comparator.comparing((Open one) -> one.row().happenedOn())
                        .thenComparing(one -> one.row().id()))
                .toList()) {
            var row = one.row();
            var open = Optional.ofNullable(row.open()).map(company::money);
            var coming = Optional.ofNullable(row.toCome()).map(company::money);
            balance = balance.plus(open.orElse(zero));
            toCome = toCome.plus(coming.orElse(zero));
            rows.add(new OpenLine(
                    row.happenedOn(),
                    one.kind(),
                    row.number(),
                    one.what(),
                    row.reference(),
                    row.dueOn(),
                    coming.map(Money::amount).orElse(null),
                    open.map(Money::amount).orElse(null),
                    balance.amount()));
        }
        return new OpenView(
                rows, toCome.amount(), balance.amount(), sorts.stream().allMatch(sort -> sort.size() <= PIECE));
    }
}
