package app.euthyna.server.trail;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.core.trail.PaymentFact;
import app.euthyna.core.trail.RefundFact;
import app.euthyna.core.trail.Remark;
import app.euthyna.core.trail.ReturnMove;
import app.euthyna.core.trail.ReversalFact;
import app.euthyna.core.trail.Stamp;
import app.euthyna.core.trail.StillToDo;
import app.euthyna.core.trail.TrailFacts;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Gathers what a trail is made of, in a handful of queries whatever its length. */
@Component
public class TrailReader {

    private final JdbcClient jdbc;
    private final ChainReader chains;
    private final LedgerReader ledger;
    private final Company company;

    TrailReader(JdbcClient jdbc, ChainReader chains, LedgerReader ledger, Company company) {
        this.jdbc = jdbc;
        this.chains = chains;
        this.ledger = ledger;
        this.company = company;
    }

    public TrailFacts from(DocumentKind kind, String number) {
        if (kind == DocumentKind.ENTRY) {
            var document = jdbc.sql("select document_kind, document_number from journal_entry where number = ?")
                    .param(number)
                    .query((r, n) -> new DocumentRef(DocumentKind.valueOf(r.getString(1)), r.getString(2)))
                    .optional()
                    .orElseThrow(() -> missing(kind, number));
            return from(document.kind(), document.number());
        }
        var roots = roots(kind, number);
        var found = new ArrayList<>(chains.chains(roots).values());
        var invoices = new LinkedHashSet<String>();
        found.forEach(chain -> chain.invoices().forEach(invoice -> invoices.add(invoice.number())));
        var ahead = paidAhead(roots, invoices);
        var others = new LinkedHashSet<>(ahead);
        found.forEach(chain -> chain.credits().forEach(credit -> others.add(credit.number())));
        var payments = payments(
                invoices,
                kind == DocumentKind.PAYMENT || kind == DocumentKind.DEPOSIT || kind == DocumentKind.CREDIT_NOTE
                        ? number
                        : kind == DocumentKind.REFUND ? refunded(number) : "",
                others);
        payments.stream()
                .filter(p -> p.document().kind() == DocumentKind.DEPOSIT)
                .map(PaymentFact::number)
                .forEach(ahead::add);
        var deposits = deposits(ahead);
        // credit of others that pays here is named; its document belongs to another trail
        var own = payments.stream()
                .filter(payment -> !payment.isNeighbourOf(found))
                .toList();
        var refunds = refunds(own);
        var documents = documents(found, own, deposits, refunds);
        var stamped = new ArrayList<>(documents);
        payments.forEach(payment -> stamped.add(payment.document()));
        var returns = found.stream()
                .flatMap(chain -> chain.returns().stream())
                .map(Return::number)
                .distinct()
                .toList();
        return new TrailFacts(
                new DocumentRef(kind, number),
                found,
                payments,
                deposits,
                refunds,
                returnMoves(returns),
                reversals(found, refunds),
                paidElsewhere(own, deposits, roots, invoices),
                remarks(roots),
                stamps(stamped),
                ledger.entries(documents));
    }

    /** What of a trail's returns and their money waits for someone. */
    public List<StillToDo> stillToDo(TrailFacts facts) {
        var returns = facts.roots().stream()
                .flatMap(chain -> chain.returns().stream())
                .map(Return::number)
                .distinct()
                .toList();
        var owed = new HashMap<String, StillToDo.ReturnOwed>();
        if (!returns.isEmpty()) {
            jdbc.sql("select number, credit_due, credited_ahead from goods_return where number in (:numbers)")
                    .param("numbers", returns)
                    .query((r, n) -> owed.put(
                            r.getString(1),
                            new StillToDo.ReturnOwed(
                                    company.money(r.getBigDecimal(2)), company.money(r.getBigDecimal(3)))))
                    .list();
        }
        var going = new ArrayList<StillToDo.MoneyGoing>();
        var credits =
                Chain.credits(facts.roots()).stream().map(CreditNote::number).toList();
        if (!credits.isEmpty()) {
            jdbc.sql("select k.number, p.left_amount from credit_note k join payment p on p.number = k.number"
                            + " where k.number in (:numbers) and k.wish = 'REFUND' and p.left_amount > 0 order by"
                            + " k.id")
                    .param("numbers", credits)
                    .query((r, n) -> going.add(new StillToDo.MoneyGoing(
                            new DocumentRef(DocumentKind.CREDIT_NOTE, r.getString(1)),
                            company.money(r.getBigDecimal(2)),
                            StillToDo.Going.WISHED)))
                    .list();
        }
        var sources = Stream.concat(
                        facts.payments().stream().map(PaymentFact::number),
                        facts.deposits().stream().map(DepositFact::number))
                .distinct()
                .toList();
        if (!sources.isEmpty()) {
            jdbc.sql("select r.number, r.amount, u.state from refund r join payout u on u.refund_id = r.id"
                            + " where u.closed = false and r.source_number in (:sources) order by r.id")
                    .param("sources", sources)
                    .query((r, n) -> going.add(new StillToDo.MoneyGoing(
                            new DocumentRef(DocumentKind.REFUND, r.getString(1)),
                            company.money(r.getBigDecimal(2)),
                            switch (r.getString(3)) {
                                case "UNANSWERED" -> StillToDo.Going.UNANSWERED;
                                case "DECLINED" -> StillToDo.Going.DECLINED;
                                default -> StillToDo.Going.ON_ITS_WAY;
                            })))
                    .list();
        }
        return StillToDo.of(facts.roots(), owed, going);
    }

    /** What stands for itself: goods that came in, a count, a manual entry. */
    private record NoOrder(DocumentRef document) implements Refusal {
        @Override
        public String code() {
            return "not-found";
        }

        @Override
        public Kind kind() {
            return Kind.NOT_FOUND;
        }

        @Override
        public String sentence() {
            return "%s belongs to no order, so it has no trail.".formatted(document);
        }

        @Override
        public String instead() {
            return "See its entry in Ledger.";
        }
    }

    private static RefusedException missing(DocumentKind kind, String number) {
        return new RefusedException(new CommonRefusal.NotFound(kind.word().toLowerCase(Locale.ROOT), number));
    }

    private List<String> roots(DocumentKind kind, String number) {
        var sql = switch (kind) {
            case ORDER -> "select number from sales_order where number = ?";
            case CANCELLATION ->
                "select o.number from cancellation c join sales_order o on o.id = c.order_id where c.number = ?";
            case DISPATCH ->
                "select o.number from dispatch d join sales_order o on o.id = d.order_id where d.number = ?";
            case INVOICE ->
                "select distinct o.number from invoice i join invoice_line l on l.invoice_id = i.id "
                        + "join sales_order o on o.id = l.root_order_id where i.number = ? order by 1";
            case PAYMENT ->
                "select distinct o.number from payment p join allocation a on a.payment_id = p.id join invoice_line l"
                        + " on l.invoice_id = a.invoice_id join sales_order o on o.id = l.root_order_id where p.number = ?"
                        + " order by 1";
            case DEPOSIT -> "select o.number from deposit d join sales_order o on o.id = d.order_id where d.number = ?";
            case REFUND ->
                "select distinct o.number from refund r left join deposit d on d.number = r.source_number left join"
                        + " credit_note k on k.number = r.source_number left join credit_note_line l on l.credit_note_id ="
                        + " k.id join sales_order o on o.id = coalesce(r.order_id, d.order_id, l.root_order_id) where"
                        + " r.number = ? order by 1";
            case RETURN ->
                "select distinct o.number from goods_return g join return_line l on l.return_id = g.id join"
                        + " sales_order o on o.id = l.root_order_id where g.number = ? order by 1";
            case CREDIT_NOTE ->
                "select distinct o.number from credit_note k join credit_note_line l on l.credit_note_id = k.id "
                        + "join sales_order o on o.id = l.root_order_id where k.number = ? order by 1";
            case UNEXPECTED_GOODS ->
                "select distinct o.number from unexpected_goods u join unexpected_decision d on d.goods_id = u.id join"
                        + " return_line l on l.return_id = d.return_id join sales_order o on o.id = l.root_order_id where"
                        + " u.number = ? order by 1";
            case STOCK_RECEIPT, STOCK_COUNT, MANUAL_ENTRY ->
                throw new RefusedException(new NoOrder(new DocumentRef(kind, number)));
            case QUOTE, BLANKET_ORDER, RECURRING_ORDER ->
                "select o.number from sales_order o join sales_agreement q on q.id = o.agreement_id where q.number = ? order by"
                        + " o.id";
            case ENTRY -> throw missing(kind, number);
        };
        var roots = jdbc.sql(sql).param(number).query(String.class).list();
        if (roots.isEmpty()
                && (kind != DocumentKind.PAYMENT || missing("payment", number))
                && (kind != DocumentKind.REFUND || missing("refund", number))) {
            throw missing(kind, number);
        }
        return roots;
    }

    private boolean missing(String table, String number) {
        return jdbc.sql("select count(*) from " + table + " where number = ?")
                        .param(number)
                        .query(Long.class)
                        .single()
                == 0;
    }

    /** What a refund gave back, where that is customer credit. */
    private String refunded(String refund) {
        return jdbc.sql("select source_number from refund where number = ? and order_id is null")
                .param(refund)
                .query(String.class)
                .optional()
                .orElse("");
    }

    private List<PaymentFact> payments(Collection<String> invoices, String start, Collection<String> others) {
        var numbers = new LinkedHashSet<String>();
        if (!invoices.isEmpty()) {
            numbers.addAll(jdbc.sql("""
                select distinct p.id, p.number from allocation a join payment p on p.id = a.payment_id
                join invoice i on i.id = a.invoice_id
                where i.number in (:invoices) order by p.id\
                """)
                    .param("invoices", invoices)
                    .query((r, n) -> r.getString(2))
                    .list());
        }
        if (!start.isEmpty()) {
            numbers.add(start);
        }
        // credit that a deposit became, or that a credit note left, stands under their numbers
        numbers.addAll(others);
        if (numbers.isEmpty()) {
            return List.of();
        }
        var allocations = new HashMap<String, List<PaymentFact.Allocation>>();
        jdbc.sql("""
            select p.number, i.number, a.amount, a.allocated_on, a.moment, h.by_user from payment p
            join allocation a on a.payment_id = p.id left join history h on h.moment = a.moment
            join invoice i on i.id = a.invoice_id where p.number in (:numbers) order by a.id\
            """)
                .param("numbers", numbers)
                .query((r, n) -> allocations
                        .computeIfAbsent(r.getString(1), p -> new ArrayList<>())
                        .add(new PaymentFact.Allocation(
                                r.getString(2),
                                company.money(r.getBigDecimal(3)),
                                r.getObject(4, LocalDate.class),
                                new Stamp(r.getLong(5), r.getString(6)))))
                .list();
        return jdbc.sql("""
            select p.number, c.code, p.received_on, p.amount, p.left_amount, p.kind, p.refunded, p.reversed
            from payment p join customer c on c.id = p.customer_id
            where p.number in (:numbers) order by p.id\
            """)
                .param("numbers", numbers)
                .query((r, n) -> new PaymentFact(
                        new DocumentRef(DocumentKind.valueOf(r.getString(6)), r.getString(1)),
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        company.money(r.getBigDecimal(4)),
                        company.money(r.getBigDecimal(5)),
                        company.money(r.getBigDecimal(7)),
                        r.getBoolean(8),
                        allocations.getOrDefault(r.getString(1), List.of())))
                .list();
    }

    /** Deposits for the roots and those that settled their invoices. */
    private Set<String> paidAhead(List<String> roots, Collection<String> invoices) {
        var numbers = new LinkedHashSet<String>();
        if (!roots.isEmpty()) {
            numbers.addAll(
                    jdbc.sql("select d.number from deposit d join sales_order o on o.id = d.order_id where o.number in"
                                    + " (:roots) order by d.id")
                            .param("roots", roots)
                            .query(String.class)
                            .list());
        }
        if (!invoices.isEmpty()) {
            numbers.addAll(jdbc.sql("""
                select distinct d.id, d.number from deposit_use u join deposit d on d.id = u.deposit_id
                join invoice i on i.id = u.invoice_id
                where i.number in (:invoices) order by d.id\
                """)
                    .param("invoices", invoices)
                    .query((r, n) -> r.getString(2))
                    .list());
        }
        return numbers;
    }

    private List<DepositFact> deposits(Set<String> numbers) {
        if (numbers.isEmpty()) {
            return List.of();
        }
        var uses = new HashMap<String, List<DepositFact.Use>>();
        jdbc.sql("""
            select d.number, u.kind, u.document_kind, u.document_number, u.amount, u.used_on, u.moment, h.by_user
            from deposit_use u join deposit d on d.id = u.deposit_id left join history h on h.moment = u.moment
            where d.number in (:numbers) order by u.id\
            """)
                .param("numbers", numbers)
                .query((r, n) -> uses.computeIfAbsent(r.getString(1), d -> new ArrayList<>())
                        .add(new DepositFact.Use(
                                DepositFact.Kind.valueOf(r.getString(2)),
                                new DocumentRef(DocumentKind.valueOf(r.getString(3)), r.getString(4)),
                                company.money(r.getBigDecimal(5)),
                                r.getObject(6, LocalDate.class),
                                new Stamp(r.getLong(7), r.getString(8)))))
                .list();
        return jdbc.sql("""
            select d.number, o.number, d.received_on, d.amount, d.left_amount, (select m.number from deposit m
            where m.id = d.moved_from)
            from deposit d join sales_order o on o.id = d.order_id where d.number in (:numbers) order by d.id\
            """)
                .param("numbers", numbers)
                .query((r, n) -> new DepositFact(
                        r.getString(1),
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        company.money(r.getBigDecimal(4)),
                        company.money(r.getBigDecimal(5)),
                        r.getString(6) == null ? "" : r.getString(6),
                        uses.getOrDefault(r.getString(1), List.of())))
                .list();
    }

    private List<RefundFact> refunds(List<PaymentFact> payments) {
        return payments.isEmpty()
                ? List.of()
                : jdbc.sql("""
                    select number, source_kind, source_number, refunded_on, amount, reversed_on from refund
                    where source_kind in ('PAYMENT', 'DEPOSIT', 'CREDIT_NOTE') and source_number in (:numbers)
                        and order_id is null order by id\
                    """)
                        .param(
                                "numbers",
                                payments.stream().map(PaymentFact::number).toList())
                        .query((r, n) -> new RefundFact(
                                r.getString(1),
                                new DocumentRef(DocumentKind.valueOf(r.getString(2)), r.getString(3)),
                                r.getObject(4, LocalDate.class),
                                company.money(r.getBigDecimal(5)),
                                r.getObject(6) != null))
                        .list();
    }

    /** What came back on returns and what became of it, each with whoever did it. */
    private List<ReturnMove> returnMoves(List<String> returns) {
        return returns.isEmpty()
                ? List.of()
                : jdbc.sql("""
                    select t.number, t.happened_on, t.moment, h.by_user, o.number, t.order_line_no, t.kind,
                        t.quantity from (
                        select g.number, p.received_on as happened_on, p.moment, l.root_order_id, l.order_line_no,
                            'RECEIVED' as kind, p.quantity, 0 as seq, p.id
                        from goods_return g join return_line l on l.return_id = g.id
                        join return_part p on p.return_line_id = l.id where g.number in (:numbers)
                        union all
                        select g.number, x.decided_on, x.moment, l.root_order_id, l.order_line_no,
                            case x.kind when 'RESTOCK' then 'RESTOCKED' when 'SCRAP' then 'SCRAPPED' else 'SENT_BACK' end, x.quantity, 1, x.id
                        from goods_return g join return_line l on l.return_id = g.id
                        join return_part p on p.return_line_id = l.id join return_outcome x on x.part_id = p.id
                        where g.number in (:numbers)) t
                    join sales_order o on o.id = t.root_order_id join history h on h.moment = t.moment
                    order by t.moment, t.seq, t.id\
                    """)
                        .param("numbers", returns)
                        .query((r, n) -> new ReturnMove(
                                r.getString(1),
                                r.getObject(2, LocalDate.class),
                                new Stamp(r.getLong(3), r.getString(4)),
                                new LineRef(r.getString(5), r.getInt(6)),
                                ReturnMove.Kind.valueOf(r.getString(7)),
                                new Quantity(r.getBigDecimal(8))))
                        .list();
    }

    /** Dispatches and invoices of the roots that were mirrored, and refunds of the credit they left. */
    private List<ReversalFact> reversals(List<Chain> roots, List<RefundFact> refunds) {
        var found = new ArrayList<ReversalFact>();
        var dispatches = roots.stream()
                .flatMap(c -> c.dispatches().stream())
                .filter(d -> d.state() == Dispatch.State.REVERSED)
                .map(Dispatch::number)
                .toList();
        var invoices = roots.stream()
                .flatMap(c -> c.invoices().stream())
                .filter(Invoice::reversed)
                .map(Invoice::number)
                .distinct()
                .toList();
        reversals(DocumentKind.DISPATCH, "dispatch", dispatches, found);
        reversals(DocumentKind.INVOICE, "invoice", invoices, found);
        reversals(
                DocumentKind.REFUND,
                "refund",
                refunds.stream()
                        .filter(RefundFact::reversed)
                        .map(RefundFact::number)
                        .toList(),
                found);
        return found;
    }

    private void reversals(DocumentKind kind, String table, List<String> numbers, List<ReversalFact> found) {
        if (!numbers.isEmpty()) {
            jdbc.sql(
                            "select d.number, d.reversed_on, d.reversed_moment, h.by_user, h.sentence from TABLE d join history h on h.moment = d.reversed_moment where d.number in (:numbers)"
                                    .replace("TABLE", table))
                    .param("numbers", numbers)
                    .query((r, n) -> found.add(new ReversalFact(
                            new DocumentRef(kind, r.getString(1)),
                            r.getObject(2, LocalDate.class),
                            new Stamp(r.getLong(3), r.getString(4)),
                            r.getString(5).contains(": ")
                                    ? r.getString(5).substring(r.getString(5).indexOf(": ") + 2)
                                    : "")))
                    .list();
        }
    }

    /** Orders that the same money settled on other invoices, or paid as a deposit. */
    private Set<String> paidElsewhere(
            List<PaymentFact> payments, List<DepositFact> deposits, List<String> roots, Set<String> invoices) {
        var others = new HashSet<String>();
        payments.forEach(p -> p.allocations().stream()
                .map(PaymentFact.Allocation::invoice)
                .filter(i -> !invoices.contains(i))
                .forEach(others::add));
        var orders = new HashSet<String>();
        deposits.forEach(deposit -> {
            orders.add(deposit.order());
            deposit.uses().stream()
                    .filter(use -> use.kind() == DepositFact.Kind.APPLIED)
                    .map(use -> use.document().number())
                    .filter(i -> !invoices.contains(i))
                    .forEach(others::add);
        });
        roots.forEach(orders::remove);
        if (!others.isEmpty()) {
            orders.addAll(
                    jdbc.sql("""
                        select distinct o.number from invoice i join invoice_line l on l.invoice_id = i.id
                        join sales_order o on o.id = l.root_order_id where i.number in (:invoices)\
                        """).param("invoices", others).query(String.class).list());
        }
        return orders;
    }

    /** The documents of a trail. */
    private static List<DocumentRef> documents(
            List<Chain> roots, List<PaymentFact> payments, List<DepositFact> deposits, List<RefundFact> refunds) {
        var documents = new LinkedHashSet<DocumentRef>();
        for (var chain : roots) {
            documents.add(DocumentRef.order(chain.order().number()));
            chain.cancellations().forEach(c -> documents.add(new DocumentRef(DocumentKind.CANCELLATION, c.number())));
            chain.dispatches().forEach(d -> documents.add(new DocumentRef(DocumentKind.DISPATCH, d.number())));
            chain.invoices().forEach(i -> documents.add(new DocumentRef(DocumentKind.INVOICE, i.number())));
            chain.returns().forEach(r -> documents.add(new DocumentRef(DocumentKind.RETURN, r.number())));
            chain.credits().forEach(c -> documents.add(new DocumentRef(DocumentKind.CREDIT_NOTE, c.number())));
        }
        payments.forEach(p -> documents.add(p.document()));
        deposits.forEach(d -> {
            documents.add(new DocumentRef(DocumentKind.DEPOSIT, d.number()));
            d.uses().stream()
                    .filter(use -> use.kind() == DepositFact.Kind.GIVEN_BACK)
                    .map(DepositFact.Use::document)
                    .forEach(documents::add);
        });
        refunds.forEach(refund -> documents.add(new DocumentRef(DocumentKind.REFUND, refund.number())));
        return List.copyOf(documents);
    }

    private List<Remark> remarks(List<String> roots) {
        if (roots.isEmpty()) {
            return List.of();
        }
        return jdbc.sql("""
            select o.number, h.happened_on, h.moment, h.by_user, h.sentence, h.event from history h
            join sales_order o on o.id = h.order_id
            where o.number in (:roots) and h.event in ('state', 'waived', 'changed', 'started', 'replaced',
                'corrected') order by h.moment\
            """)
                .param("roots", roots)
                .query((r, n) -> new Remark(
                        r.getString(1),
                        r.getObject(2, LocalDate.class),
                        new Stamp(r.getLong(3), r.getString(4)),
                        r.getString(5),
                        Set.of("started", "replaced", "corrected").contains(r.getString(6))))
                .list();
    }

    /** A dispatch stands where it departed, or was staged as long as it has not; everything else where it began. */
    private Map<DocumentRef, Stamp> stamps(List<DocumentRef> documents) {
        var stamps = new LinkedHashMap<DocumentRef, Stamp>();
        documents.forEach(document -> stamps.put(document, new Stamp(0, "")));
        for (var kind : DocumentKind.values()) {
            var numbers = documents.stream()
                    .filter(d -> d.kind() == kind)
                    .map(DocumentRef::number)
                    .toList();
            if (!numbers.isEmpty()) {
                jdbc.sql("""
                    select document_number, moment, by_user, event from history
                    where document_kind = :kind and document_number in (:numbers) order by moment\
                    """)
                        .param("kind", kind.name())
                        .param("numbers", numbers)
                        .query((r, n) -> {
                            var document = new DocumentRef(kind, r.getString(1));
                            var first = stamps.get(document).moment() == 0;
                            return first
                                            || r.getString(4).equals("departed")
                                            || r.getString(4).equals("credited")
                                    ? stamps.put(document, new Stamp(r.getLong(2), r.getString(3)))
                                    : null;
                        })
                        .list();
            }
        }
        return stamps;
    }
}
