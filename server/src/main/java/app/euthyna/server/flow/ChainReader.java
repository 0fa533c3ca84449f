package app.euthyna.server.flow;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.order.Committed;
import app.euthyna.core.order.Details;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.order.CommittedQuantities;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Loads chains straight from the tables: a fixed number of queries for any number of orders. Within a transaction a
 * chain is loaded once and follows the effects that are written, by the same fold that previews them.
 */
@Component
public class ChainReader implements CommittedQuantities {

    private final JdbcClient jdbc;
    private final Company company;
    private final TransactionCache<String, Chain> known = TransactionCache.readThrough();

    ChainReader(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
        this.company = company;
    }

    /** The chain of an order; refused when there is none. */
    public Chain chain(String order) {
        return known.get(order, number -> {
            var chain = stored(List.of(number)).get(number);
            if (chain == null) {
                throw new RefusedException(new CommonRefusal.NotFound("order", number));
            }
            return chain;
        });
    }

    /** Has the chains known in this transaction follow what was written. */
    /** The orders whose chains are known in this transaction. */
    Set<String> known() {
        return known.keys();
    }

    /** Something about an order was written beside its effects. */
    public void readAgain(String order) {
        known.forget(order);
    }

    void happened(Effect effect) {
        effect.orders().forEach(order -> known.change(order, chain -> chain.after(effect)));
    }

    @Override
    public Map<Integer, Committed> of(String order) {
        return chain(order).committed();
    }

    /** The chains of orders, in the order asked for; what does not exist is missing. */
    public Map<String, Chain> chains(Collection<String> numbers) {
        // what is known in this transaction is not read again
        var loaded = stored(
                numbers.stream().filter(number -> known.known(number).isEmpty()).toList());
        var found = new LinkedHashMap<String, Chain>();
        for (var number : numbers) {
            var chain = known.known(number).orElse(loaded.get(number));
            if (chain != null) {
                found.put(number, known.get(number, n -> chain));
            }
        }
        return found;
    }

    Map<String, Chain> stored(Collection<String> numbers) {
        if (numbers.isEmpty()) {
            return new LinkedHashMap<>();
        }
        var orders = orders(numbers);
        if (orders.isEmpty()) {
            return new LinkedHashMap<>();
        }
        var ids = orders.keySet();
        var cancellations = cancellations(ids);
        var reserved = reserved(ids);
        var dispatches = dispatches(ids);
        var invoices = invoices(ids);
        var deposits = deposits(ids);
        var returns = returns(ids);
        var credits = credits(invoices.stream().map(Invoice::number).toList());
        var byNumber = new HashMap<String, Chain>();
        orders.forEach((id, order) -> byNumber.put(
                order.number(),
                new Chain(
                        order,
                        cancellations.getOrDefault(id, List.of()),
                        reserved.getOrDefault(id, Map.of()),
                        dispatches.getOrDefault(id, List.of()),
                        invoices.stream()
                                .filter(invoice -> invoice.bills(order.number()))
                                .toList(),
                        deposits.getOrDefault(id, List.of()),
                        returns.stream()
                                .filter(goods -> goods.touches(order.number()))
                                .toList(),
                        credits.stream()
                                .filter(credit -> invoices.stream()
                                        .anyMatch(i -> i.number().equals(credit.invoice()) && i.bills(order.number())))
                                .toList())));
        var asked = new LinkedHashMap<String, Chain>();
        numbers.stream().filter(byNumber::containsKey).forEach(number -> asked.put(number, byNumber.get(number)));
        return asked;
    }

    private Map<Long, Order> orders(Collection<String> numbers) {
        var headers = new LinkedHashMap<Long, Order>();
        jdbc.sql("""
            select o.id, o.number, o.kind, o.state, c.code as customer, o.po, s.code as site, o.ordered_on,
                o.requested_on, o.remark,
                   o.author, o.last_editor, o.writers, o.details
            from sales_order o join customer c on c.id = o.customer_id join site s on s.id = o.site_id
            where o.number in (:numbers)\
            """)
                .param("numbers", numbers)
                .query((r, n) -> headers.put(
                        r.getLong("id"),
                        new Order(
                                r.getString("number"),
                                r.getLong("id"),
                                OrderKind.valueOf(r.getString("kind")),
                                OrderState.valueOf(r.getString("state")),
                                r.getString("customer"),
                                r.getString("po"),
                                r.getString("site"),
                                date(r, "ordered_on"),
                                date(r, "requested_on"),
                                r.getString("remark"),
                                r.getString("author"),
                                r.getString("last_editor"),
                                Records.lines(r.getString("writers")),
                                company.currency(),
                                Records.read(r.getString("details"), Details.class, Details.NONE),
                                List.of())))
                .list();
        if (headers.isEmpty()) {
            return headers;
        }
        var lines = new HashMap<Long, List<OrderLine>>();
        jdbc.sql("select * from sales_order_line where order_id in (:ids) and removed = false order by"
                        + " order_id, line_no")
                .param("ids", headers.keySet())
                .query((r, n) -> add(
                        lines,
                        r.getLong("order_id"),
                        new OrderLine(
                                r.getInt("line_no"),
                                LineKind.valueOf(r.getString("kind")),
                                r.getString("item_code"),
                                r.getString("description"),
                                quantity(r),
                                price(r),
                                vat(r),
                                date(r, "requested_on"),
                                r.getString("site_code"),
                                Shortage.valueOf(r.getString("shortage")))))
                .list();
        headers.replaceAll((id, order) -> order.withLines(lines.getOrDefault(id, List.of())));
        return headers;
    }

    private Map<Long, List<Cancellation>> cancellations(Set<Long> ids) {
        return grouped(
                """
                select c.order_id, c.number, o.number as order_number, c.cancelled_on, c.reason, l.order_line_no,
                    l.quantity
                from cancellation c join cancellation_line l on l.cancellation_id = c.id
                join sales_order o on o.id = c.order_id
                where c.order_id in (:ids) order by c.order_id, c.id, l.order_line_no\
                """,
                ids,
                r -> new Cancellation(
                        r.getString("number"),
                        r.getString("order_number"),
                        date(r, "cancelled_on"),
                        r.getString("reason"),
                        List.of()),
                r -> new Cancellation.Line(r.getInt("order_line_no"), quantity(r)),
                (c, lines) -> new Cancellation(c.number(), c.order(), c.on(), c.reason(), lines));
    }

    private Map<Long, Map<Integer, Quantity>> reserved(Set<Long> ids) {
        var reserved = new HashMap<Long, Map<Integer, Quantity>>();
        jdbc.sql("select order_id, line_no, reserved from stock_claim where order_id in (:ids) and reserved > 0")
                .param("ids", ids)
                .query((r, n) -> reserved.computeIfAbsent(r.getLong("order_id"), id -> new HashMap<>())
                        .put(r.getInt("line_no"), new Quantity(r.getBigDecimal("reserved"))))
                .list();
        return reserved;
    }

    private Map<Long, List<Deposit>> deposits(Set<Long> ids) {
        var deposits = new HashMap<Long, List<Deposit>>();
        jdbc.sql("select d.order_id, d.number, o.number as order_number, d.received_on, d.amount, d.left_amount"
                        + " from deposit d join sales_order o on o.id = d.order_id where d.order_id in (:ids)"
                        + " order by d.order_id, d.id")
                .param("ids", ids)
                .query((r, n) -> add(
                        deposits,
                        r.getLong("order_id"),
                        new Deposit(
                                r.getString("number"),
                                r.getString("order_number"),
                                date(r, "received_on"),
                                money(r, "amount"),
                                money(r, "left_amount"))))
                .list();
        return deposits;
    }

    private Map<Long, List<Dispatch>> dispatches(Set<Long> ids) {
        return grouped(
                """
                select d.order_id, d.number, o.number as order_number, s.code as site, d.state,
                    coalesce(d.departed_on, d.staged_on) as on_date,
                       l.line_no, l.order_line_no, i.code as item, l.quantity, l.cost
                from dispatch d join dispatch_line l on l.dispatch_id = d.id join sales_order o on o.id = d.order_id
                join site s on s.id = d.site_id join item i on i.id = l.item_id
                where d.order_id in (:ids) order by d.order_id, on_date, d.id, l.line_no\
                """,
                ids,
                r -> new Dispatch(
                        r.getString("number"),
                        r.getString("order_number"),
                        r.getString("site"),
                        Dispatch.State.valueOf(r.getString("state")),
                        date(r, "on_date"),
                        List.of()),
                r -> new Dispatch.Line(
                        r.getInt("line_no"),
                        r.getInt("order_line_no"),
                        r.getString("item"),
                        quantity(r),
                        money(r, "cost")),
                (d, lines) -> new Dispatch(d.number(), d.order(), d.site(), d.state(), d.date(), lines));
    }

    /** Documents with their lines from one joined query, by order. */
    private <D, L> Map<Long, List<D>> grouped(
            String sql, Set<Long> ids, Row<D> header, Row<L> line, BiFunction<D, List<L>, D> whole) {
        var documents = new LinkedHashMap<String, Held<D, L>>();
        jdbc.sql(sql)
                .param("ids", ids)
                .query((r, n) -> {
                    var number = r.getString("number");
                    if (!documents.containsKey(number)) {
                        documents.put(number, new Held<>(r.getLong("order_id"), header.read(r), new ArrayList<>()));
                    }
                    return documents.get(number).lines().add(line.read(r));
                })
                .list();
        var byOrder = new HashMap<Long, List<D>>();
        documents.values().forEach(held -> add(byOrder, held.order(), whole.apply(held.document(), held.lines())));
        return byOrder;
    }

    private record Held<D, L>(long order, D document, List<L> lines) {}

    /** Reads something from the current row. */
    private interface Row<T> {
        T read(ResultSet row) throws SQLException;
    }

    /** Invoices that bill one of the orders, whole, oldest first. */
    private List<Invoice> invoices(Set<Long> ids) {
        Set<Long> invoiceIds = new LinkedHashSet<>(
                jdbc.sql("select distinct invoice_id from invoice_line where root_order_id in (:ids)")
                        .param("ids", ids)
                        .query(Long.class)
                        .list());
        if (invoiceIds.isEmpty()) {
            return List.of();
        }
        var sources = new HashMap<Long, List<Invoice.Source>>();
        jdbc.sql("""
            select s.invoice_line_id, d.number, s.dispatch_line_no, s.quantity, s.cost, s.ahead, s.earned
            from invoice_line l join invoice_line_source s on s.invoice_line_id = l.id
            join dispatch d on d.id = s.dispatch_id
            where l.invoice_id in (:ids) order by s.id\
            """)
                .param("ids", invoiceIds)
                .query((r, n) -> add(
                        sources,
                        r.getLong(1),
                        new Invoice.Source(
                                new LineRef(r.getString(2), r.getInt(3)),
                                quantity(r),
                                money(r, "cost"),
                                r.getBoolean("ahead"),
                                money(r, "earned"))))
                .list();
        var takenBack = new HashMap<LineRef, List<Invoice.TakenBack>>();
        jdbc.sql("""
            select i.number, l.invoice_line_no, l.ahead, l.deferred from credit_note_line l
            join credit_note k on k.id = l.credit_note_id join invoice i on i.id = k.invoice_id
            where k.invoice_id in (:ids) and (l.ahead <> 0 or l.deferred <> 0) order by l.credit_note_id, l.line_no\
            """)
                .param("ids", invoiceIds)
                .query((r, n) -> add(
                        takenBack,
                        new LineRef(r.getString(1), r.getInt(2)),
                        new Invoice.TakenBack(new Quantity(r.getBigDecimal(3)), money(r, "deferred"))))
                .list();
        var headers = new LinkedHashMap<Long, Invoice>();
        var lines = new HashMap<Long, List<Invoice.Line>>();
        jdbc.sql("""
            select i.id, i.number, c.code as customer, i.invoiced_on, i.due_on, i.text, i.reversed_on, l.deferred,
                l.id as line_id, l.line_no, o.number as order_number,
                   l.order_line_no, l.kind, l.item_code, l.description, l.quantity, l.unit_price, l.discount_percent, l.net,
                   l.vat_category, l.vat_rate
            from invoice i join customer c on c.id = i.customer_id join invoice_line l on l.invoice_id = i.id
            join sales_order o on o.id = l.root_order_id
            where i.id in (:ids) order by i.id, l.line_no\
            """)
                .param("ids", invoiceIds)
                .query((r, n) -> {
                    headers.putIfAbsent(
                            r.getLong("id"),
                            new Invoice(
                                    r.getString("number"),
                                    r.getString("customer"),
                                    date(r, "invoiced_on"),
                                    date(r, "due_on"),
                                    r.getString("text"),
                                    r.getObject("reversed_on") != null,
                                    List.of(),
                                    Totals.of(List.of(), company.currency())));
                    return add(
                            lines,
                            r.getLong("id"),
                            new Invoice.Line(
                                    r.getInt("line_no"),
                                    new LineRef(r.getString("order_number"), r.getInt("order_line_no")),
                                    LineKind.valueOf(r.getString("kind")),
                                    r.getString("item_code"),
                                    r.getString("description"),
                                    quantity(r),
                                    price(r),
                                    money(r, "net"),
                                    money(r, "deferred"),
                                    vat(r),
                                    sources.getOrDefault(r.getLong("line_id"), List.of()),
                                    takenBack.getOrDefault(
                                            new LineRef(r.getString("number"), r.getInt("line_no")), List.of())));
                })
                .list();
        return headers.entrySet().stream()
                .map(entry -> {
                    var invoice = entry.getValue();
                    var own = lines.get(entry.getKey());
                    var totals = Totals.of(
                            own.stream()
                                    .map(l -> new Totals.Part(l.net(), l.vat()))
                                    .toList(),
                            company.currency());
                    return new Invoice(
                            invoice.number(),
                            invoice.customer(),
                            invoice.on(),
                            invoice.dueOn(),
                            invoice.text(),
                            invoice.reversed(),
                            own,
                            totals);
                })
                .toList();
    }

    /** Returns with goods of one of the orders, whole, oldest first. */
    private List<Return> returns(Set<Long> ids) {
        var returnIds = jdbc.sql("select distinct return_id from return_line where root_order_id in (:ids)")
                .param("ids", ids)
                .query(Long.class)
                .list();
        if (returnIds.isEmpty()) {
            return List.of();
        }
        var outcomes = new HashMap<Long, List<Return.Outcome>>();
        jdbc.sql("""
            select o.part_id, o.kind, o.decided_on, o.quantity, o.cost, o.site, o.remark from return_line l
            join return_part p on p.return_line_id = l.id
            join return_outcome o on o.part_id = p.id where l.return_id in (:ids) order by o.id\
            """)
                .param("ids", returnIds)
                .query((r, n) -> add(
                        outcomes,
                        r.getLong(1),
                        new Return.Outcome(
                                Return.Outcome.Kind.valueOf(r.getString(2)),
                                date(r, "decided_on"),
                                quantity(r),
                                money(r, "cost"),
                                r.getString("site"),
                                r.getString("remark"))))
                .list();
        var parts = new HashMap<Long, List<Return.Part>>();
        jdbc.sql("""
            select p.id, p.return_line_id, p.part_no, p.received_on, p.standing, i.number, p.invoice_line_no,
                p.quantity, p.cost
            from return_line l join return_part p on p.return_line_id = l.id left
            join invoice i on i.id = p.invoice_id
            where l.return_id in (:ids) order by p.return_line_id, p.part_no\
            """)
                .param("ids", returnIds)
                .query((r, n) -> add(
                        parts,
                        r.getLong(2),
                        new Return.Part(
                                r.getInt(3),
                                date(r, "received_on"),
                                Return.Standing.valueOf(r.getString(5)),
                                line(r, 6, 7),
                                quantity(r),
                                money(r, "cost"),
                                outcomes.getOrDefault(r.getLong(1), List.of()))))
                .list();
        var lines = new HashMap<Long, List<Return.Line>>();
        jdbc.sql("""
            select l.id, l.return_id, l.line_no, o.number, l.order_line_no, d.number, l.dispatch_line_no, i.number,
                l.invoice_line_no, t.code, s.code, l.authorised
            from return_line l join sales_order o on o.id = l.root_order_id
            join dispatch d on d.id = l.dispatch_id join item t on t.id = l.item_id
            join site s on s.id = l.site_id left join invoice i on i.id = l.invoice_id
            where l.return_id in (:ids) order by l.return_id, l.line_no\
            """)
                .param("ids", returnIds)
                .query((r, n) -> add(
                        lines,
                        r.getLong(2),
                        new Return.Line(
                                r.getInt(3),
                                new LineRef(r.getString(4), r.getInt(5)),
                                new LineRef(r.getString(6), r.getInt(7)),
                                line(r, 8, 9),
                                r.getString(10),
                                r.getString(11),
                                new Quantity(r.getBigDecimal(12)),
                                parts.getOrDefault(r.getLong(1), List.of()))))
                .list();
        return jdbc.sql("""
            select g.id, g.number, c.code, g.authorised_on, g.reason_code, g.withdrawn from goods_return g
            join customer c on c.id = g.customer_id
            where g.id in (:ids) order by g.id\
            """)
                .param("ids", returnIds)
                .query((r, n) -> new Return(
                        r.getString(2),
                        r.getString(3),
                        date(r, "authorised_on"),
                        r.getString(5),
                        r.getBoolean(6),
                        lines.get(r.getLong(1))))
                .list();
    }

    private static Optional<LineRef> line(ResultSet row, int number, int line) throws SQLException {
        return row.getString(number) == null
                ? Optional.empty()
                : Optional.of(new LineRef(row.getString(number), row.getInt(line)));
    }

    /** Credit notes for invoices, oldest first. */
    private List<CreditNote> credits(Collection<String> invoices) {
        if (invoices.isEmpty()) {
            return List.of();
        }
        var ids = jdbc.sql("select k.id from credit_note k join invoice i on i.id = k.invoice_id where i.number in"
                        + " (:invoices)")
                .param("invoices", invoices)
                .query(Long.class)
                .list();
        if (ids.isEmpty()) {
            return List.of();
        }
        var bands = new HashMap<Long, List<Totals.Band>>();
        jdbc.sql("select credit_note_id, vat_category, vat_rate, taxable, tax from credit_note_vat where"
                        + " credit_note_id in (:ids) order by credit_note_id, vat_category, vat_rate")
                .param("ids", ids)
                .query((r, n) ->
                        add(bands, r.getLong(1), new Totals.Band(vat(r), money(r, "taxable"), money(r, "tax"))))
                .list();
        var lines = new HashMap<Long, List<CreditNote.Line>>();
        jdbc.sql("""
            select l.credit_note_id, l.line_no, l.invoice_line_no, o.number, l.order_line_no, g.number,
                l.return_line_no, l.item_code, l.description, l.quantity, l.net, l.fee, l.fee_percent,
                   l.ahead, l.deferred, l.vat_category, l.vat_rate
            from credit_note_line l join sales_order o on o.id = l.root_order_id left
            join goods_return g on g.id = l.return_id
            where l.credit_note_id in (:ids) order by l.credit_note_id, l.line_no\
            """)
                .param("ids", ids)
                .query((r, n) -> add(
                        lines,
                        r.getLong(1),
                        new CreditNote.Line(
                                r.getInt(2),
                                r.getInt(3),
                                new LineRef(r.getString(4), r.getInt(5)),
                                line(r, 6, 7),
                                r.getString("item_code"),
                                r.getString("description"),
                                quantity(r),
                                money(r, "net"),
                                money(r, "fee"),
                                r.getBigDecimal("fee_percent"),
                                new Quantity(r.getBigDecimal("ahead")),
                                money(r, "deferred"),
                                vat(r))))
                .list();
        return jdbc.sql("""
            select k.id, k.number, c.code, i.number, k.credited_on, k.reason, k.net, k.vat, k.gross
            from credit_note k join customer c on c.id = k.customer_id
            join invoice i on i.id = k.invoice_id where k.id in (:ids) order by k.id\
            """)
                .param("ids", ids)
                .query((r, n) -> new CreditNote(
                        r.getString(2),
                        r.getString(3),
                        r.getString(4),
                        date(r, "credited_on"),
                        r.getString("reason"),
                        lines.get(r.getLong(1)),
                        new Totals(money(r, "net"), money(r, "vat"), money(r, "gross"), bands.get(r.getLong(1)))))
                .list();
    }

    private static <K, V> boolean add(Map<K, List<V>> lists, K key, V value) {
        return lists.computeIfAbsent(key, k -> new ArrayList<>()).add(value);
    }

    private static LocalDate date(ResultSet row, String column) throws SQLException {
        return row.getObject(column, LocalDate.class);
    }

    private static Quantity quantity(ResultSet row) throws SQLException {
        return new Quantity(row.getBigDecimal("quantity"));
    }

    private Money money(ResultSet row, String column) throws SQLException {
        return company.money(row.getBigDecimal(column));
    }

    private static Price price(ResultSet row) throws SQLException {
        return new Price(row.getBigDecimal("unit_price"), row.getBigDecimal("discount_percent"));
    }

    private static Vat vat(ResultSet row) throws SQLException {
        return new Vat(Vat.Category.valueOf(row.getString("vat_category")), row.getBigDecimal("vat_rate"));
    }
}
