package app.euthyna.server.check;

import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.CustomerPosition;
import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.check.DocumentAmount;
import app.euthyna.core.check.LicenceFact;
import app.euthyna.core.check.PoNumber;
import app.euthyna.core.check.PoUse;
import app.euthyna.core.check.Surroundings;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.OpenOrderSink;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Gathers what the checks of an order look at. */
@Component
class SurroundingsReader {

    /** A term's sum is exact; of its documents the largest are named. */
    private static final int NAMED = 40;

    private final JdbcClient jdbc;
    private final MasterData masterData;
    private final Company company;
    private final OpenOrderSink openOrders;
    private final Ids ids;

    SurroundingsReader(JdbcClient jdbc, MasterData masterData, Company company, OpenOrderSink openOrders, Ids ids) {
        this.ids = ids;
        this.openOrders = openOrders;
        this.jdbc = jdbc;
        this.masterData = masterData;
        this.company = company;
    }

    Surroundings around(Order order, LocalDate on) {
        var customer = masterData.customer(order.customer());
        var codes = order.lines().stream().map(line -> line.item()).collect(Collectors.toSet());
        var regulated = masterData.items(codes).values().stream().filter(item -> !item.regulated().isEmpty())
                .collect(Collectors.toMap(Item::code, Item::regulated));
        var licences = new HashMap<String, LicenceFact>();
        for (var licenceClass : regulated.values()) {
            var number = customer.licences().get(licenceClass);
            licences.put(licenceClass, number == null ? LicenceFact.none(licenceClass)
                    : masterData.askRegister(licenceClass, number, on));
        }
        var floors = masterData.items(codes).values().stream().filter(item -> item.floor().signum() > 0)
                .collect(Collectors.toMap(Item::code, Item::floor));
        return new Surroundings(on, customer.rules(), position(order.customer(), order.number()), poUses(order), dueInvoices(customer, on), floors,
                regulated, licences,
                free(codes, order.site()), CheckPolicy.STANDARD);
    }

    /**
     * A customer's position.
     *
     * @param beside an order whose undispatched value is left out, or empty
     */
    CustomerPosition position(String customer, String beside) {
        openOrders.bringUpToDate();
        return new CustomerPosition(
                term(DocumentKind.INVOICE, "select x.number, x.open_amount as amount from invoice x join customer c on c.id = x.customer_id "
                        + "where c.code = :customer and x.open_amount > 0 and x.number <> :beside", customer, beside),
                term(DocumentKind.ORDER, live("unbilled_gross", "o.number is not null or o.number = :beside"), customer, beside),
                term(DocumentKind.ORDER, live("open_gross", "x.cleared = true and o.number <> :beside"), customer, beside),
                term(DocumentKind.PAYMENT, "select x.number, x.left_amount as amount from payment x join customer c on c.id = x.customer_id "
                        + "where c.code = :customer and x.left_amount > 0 and x.number <> :beside", customer, beside));
    }

    private static String live(String column, String which) {
        return "select o.number, x." + column + " as amount from open_order x join customer c on c.id = x.customer_id "
                + "join sales_order o on o.id = x.order_id where c.code = :customer and x." + column + " > 0 and (" + which + ")";
    }

    private Term term(DocumentKind kind, String sql, String customer, String beside) {
        var sum = jdbc.sql("select coalesce(sum(amount), 0) from (" + sql + ") t").param("customer", customer).param("beside", beside)
                .query((r, n) -> company.money(r.getBigDecimal(1))).single();
        if (sum.isZero()) {
            return new Term(sum, List.of());
        }
        var documents = jdbc.sql(sql + " order by amount desc, 1 fetch first " + NAMED + " rows only").param("customer", customer)
                .param("beside", beside).query((r, n) -> new DocumentAmount(new DocumentRef(kind, r.getString(1)),
                        company.money(r.getBigDecimal(2)))).list();
        return new Term(sum, documents);
    }

    /** Open invoices past due, the oldest of them; asked for only where they could hold an order. */
    private List<Surroundings.DueInvoice> dueInvoices(Customer customer, LocalDate on) {
        return customer.rules().overdue().isEmpty() ? List.of() : jdbc.sql("""
                select number, due_on, open_amount from invoice where customer_id = ? and due_on < ? and open_amount > 0
                order by customer_id, due_on, open_amount fetch first 40 rows only""").params(ids.customer(customer.code()), on)
                .query((r, n) -> new Surroundings.DueInvoice(r.getString(1), r.getObject(2, LocalDate.class), company.money(r.getBigDecimal(3)))).list();
    }

    /** Of orders of the same value, so many of the newest are looked through for a slip of the pen. */
    private static final int SAME_VALUE = 500;

    /** Orders that took a PO number like this one's before it did: found by three indexes, compared by the core. */
    private List<PoUse> poUses(Order order) {
        var po = PoNumber.of(order.po());
        if (!po.isGiven()) {
            return List.of();
        }
        var net = order.totals().net();
        var uses = jdbc.sql("""
                select o.id, o.number, o.po, o.ordered_on, o.net from sales_order o where o.id in (
                    select id from sales_order where customer_id = :customer and po_normal = :po
                    union select id from sales_order where customer_id = :customer and po_folded = :folded
                    union select id from (select id, po_normal from sales_order where customer_id = :customer and net = :net
                        order by customer_id desc, net desc, id desc fetch first SAME_VALUE rows only) v
                        where char_length(po_normal) between :length - 1 and :length + 1)
                  and o.number <> :number and o.po_taken is not null and o.state not in ('CANCELLED', 'DECLINED')
                  and o.po_taken < coalesce((select m.po_taken from sales_order m where m.number = :number), 9223372036854775807)
                order by o.id""".replace("SAME_VALUE", String.valueOf(SAME_VALUE))).param("customer", ids.customer(order.customer()))
                .param("po", po.normal()).param("folded", po.folded()).param("net", net.amount()).param("length", po.normal().length())
                .param("number", order.number())
                .query((r, n) -> new PoUse(r.getString("number"), r.getString("po"), r.getObject("ordered_on", LocalDate.class),
                        company.money(r.getBigDecimal("net")), List.of())).list().stream()
                .filter(use -> po.likeness(net, PoNumber.of(use.po()), use.net()).isPresent()).toList();
        if (uses.isEmpty()) {
            return uses;
        }
        var invoices = new HashMap<String, List<String>>();
        jdbc.sql("""
                select distinct o.number, i.number from invoice_line l join invoice i on i.id = l.invoice_id
                join sales_order o on o.id = l.root_order_id where o.number in (:orders)""")
                .param("orders", uses.stream().map(PoUse::order).toList())
                .query((r, n) -> invoices.computeIfAbsent(r.getString(1), o -> new ArrayList<>()).add(r.getString(2))).list();
        return uses.stream().map(use -> new PoUse(use.order(), use.po(), use.on(), use.net(),
                invoices.getOrDefault(use.order(), List.of()))).toList();
    }

    private Map<String, Quantity> free(Set<String> items, String site) {
        if (items.isEmpty()) {
            return Map.of();
        }
        return jdbc.sql("""
                select i.code, s.on_hand - s.reserved from shelf s join item i on i.id = s.item_id join site t on t.id = s.site_id
                where i.code in (:items) and t.code = :site""").param("items", items).param("site", site)
                .query((r, n) -> Map.entry(r.getString(1), new Quantity(r.getBigDecimal(2)))).list().stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }
}
