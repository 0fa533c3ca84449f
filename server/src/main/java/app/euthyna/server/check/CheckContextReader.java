package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckContext;
import app.euthyna.core.check.CustomerPosition;
import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.DocumentAmount;
import app.euthyna.core.check.DuplicatePo;
import app.euthyna.core.check.ItemFact;
import app.euthyna.core.check.LicenceFact;
import app.euthyna.core.check.PastOrders;
import app.euthyna.core.check.PoNumber;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoUse;
import app.euthyna.core.check.RobustScore;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.flow.OpenOrderSink;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.masterdata.SimulatedLicenceRegister;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import java.math.BigDecimal;
import java.math.MathContext;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Gathers what the checks of an order look at. */
@Component
class CheckContextReader {

    /** A term's sum is exact; of its documents the largest are named. */
    private static final int NAMED = 40;

    private final JdbcClient jdbc;
    private final MasterData masterData;
    private final Company company;
    private final OpenOrderSink openOrders;
    private final Ids ids;
    private final CompanyRulesStore rules;
    private final SimulatedLicenceRegister register;
    private final QuotaStore quotas;
    private final ChainReader chains;

    CheckContextReader(
            JdbcClient jdbc,
            MasterData masterData,
            Company company,
            OpenOrderSink openOrders,
            Ids ids,
            CompanyRulesStore rules,
            SimulatedLicenceRegister register,
            QuotaStore quotas,
            ChainReader chains) {
        this.chains = chains;
        this.rules = rules;
        this.register = register;
        this.quotas = quotas;
        this.ids = ids;
        this.openOrders = openOrders;
        this.jdbc = jdbc;
        this.masterData = masterData;
        this.company = company;
    }

    CheckContext of(Order order, LocalDate on) {
        return of(order, on, rules.inForce());
    }

    /** The world as it would be under other rules of the company. */
    CheckContext of(Order order, LocalDate on, CompanyRules under) {
        return of(order, on, under, EnumSet.allOf(Check.class));
    }

    /** No more of the world than some checks look at. */
    CheckContext of(Order order, LocalDate on, Set<Check> asked) {
        return of(order, on, rules.inForce(), asked);
    }

    private CheckContext of(Order order, LocalDate on, CompanyRules under, Set<Check> asked) {
        var customer = masterData.customer(order.customer());
        var codes = order.lines().stream()
                .map(line -> line.item())
                .filter(item -> !item.isEmpty())
                .collect(Collectors.toSet());
        var known = masterData.items(codes);
        var licences = new HashMap<String, LicenceFact>();
        for (var item : asked.contains(Check.LICENCE) ? known.values() : List.<Item>of()) {
            if (!item.regulated().isEmpty() && !licences.containsKey(item.regulated())) {
                var number = customer.licences().get(item.regulated());
                licences.put(
                        item.regulated(),
                        number == null
                                ? LicenceFact.none(item.regulated())
                                : register.ask(item.regulated(), number, on));
            }
        }
        var shelves = shelves(codes, order.site());
        var items = new HashMap<String, ItemFact>();
        known.forEach((code, item) -> items.put(
                code,
                new ItemFact(
                        item.price(),
                        Optional.of(item.floor()).filter(floor -> floor.signum() > 0),
                        Optional.ofNullable(shelves.get(code)).flatMap(Shelf::unitCost),
                        item.leadDays(),
                        Optional.of(item.regulated()).filter(licenceClass -> !licenceClass.isEmpty()))));
        var free = free(order, shelves);
        var agreed = customer.under(under);
        return new CheckContext(
                on,
                agreed,
                asked.contains(Check.CREDIT_LIMIT)
                        ? position(order.customer(), order.number())
                        : CustomerPosition.nothing(company.currency()),
                asked.contains(Check.DUPLICATE_PO)
                        ? poUses(
                                order, on, under.places(), agreed.po().ceiling().isPresent())
                        : List.of(),
                asked.contains(Check.OVERDUE) ? dueInvoices(agreed, on) : List.of(),
                items,
                licences,
                free,
                asked.contains(Check.QUOTA) ? quotas.of(order, customer, on) : List.of(),
                asked.contains(Check.UNUSUAL) ? past(order, codes) : PastOrders.NONE,
                asked.contains(Check.PRICE_FLOOR) ? roleOf(order.author()) : Optional.empty(),
                under.checks());
    }

    /** Free stock for an order's lines, by {@link Order#place}. */
    Map<String, Quantity> free(Order order) {
        return free(
                order,
                shelves(
                        order.lines().stream()
                                .map(OrderLine::item)
                                .filter(item -> !item.isEmpty())
                                .collect(Collectors.toSet()),
                        order.site()));
    }

    private Map<String, Quantity> free(Order order, Map<String, Shelf> shelves) {
        var free = new HashMap<String, Quantity>();
        shelves.forEach((item, shelf) -> free.put(item, shelf.free()));
        order.lines().stream()
                .filter(line -> !order.siteOf(line).equals(order.site()))
                .collect(Collectors.groupingBy(line -> order.siteOf(line)))
                .forEach((site, lines) -> {
                    var there = shelves(lines.stream().map(OrderLine::item).collect(Collectors.toSet()), site);
                    lines.stream()
                            .filter(line -> there.containsKey(line.item()))
                            .forEach(line -> free.put(
                                    order.place(line), there.get(line.item()).free()));
                });
        return free;
    }

    private record Shelf(String item, Quantity free, BigDecimal onHand, BigDecimal value) {

        Optional<BigDecimal> unitCost() {
            return onHand.signum() > 0 ? Optional.of(value.divide(onHand, MathContext.DECIMAL64)) : Optional.empty();
        }
    }

    private Map<String, Shelf> shelves(Set<String> items, String site) {
        return items.isEmpty()
                ? Map.of()
                : jdbc
                        .sql("""
                            select i.code, s.on_hand, s.reserved, s.stock_value from shelf s
                            join item i on i.id = s.item_id join site t on t.id = s.site_id
                            where i.code in (:items) and t.code = :site\
                            """)
                        .param("items", items)
                        .param("site", site)
                        .query((r, n) -> new Shelf(
                                r.getString(1),
                                new Quantity(r.getBigDecimal(2).subtract(r.getBigDecimal(3))),
                                r.getBigDecimal(2),
                                r.getBigDecimal(4)))
                        .list()
                        .stream()
                        .collect(Collectors.toMap(Shelf::item, shelf -> shelf));
    }

    /** What other stores than one have free of an item. */
    Map<String, Quantity> freeElsewhere(String item, String site) {
        var free = new TreeMap<String, Quantity>();
        jdbc.sql("""
            select t.code, s.on_hand - s.reserved from shelf s join item i on i.id = s.item_id
            join site t on t.id = s.site_id
            where i.code = ? and t.code <> ? and s.on_hand > s.reserved\
            """)
                .params(item, site)
                .query((r, n) -> free.put(r.getString(1), new Quantity(r.getBigDecimal(2))))
                .list();
        return free;
    }

    private Optional<Role> roleOf(String author) {
        return jdbc.sql("select role from app_user where username = ?")
                .param(author)
                .query((r, n) -> Role.valueOf(r.getString(1)))
                .optional();
    }

    /** So many earlier orders say what is usual for a customer. */
    private static final int USUAL_OF = 60;

    private PastOrders past(Order order, Set<String> items) {
        if (items.isEmpty()) {
            return PastOrders.NONE;
        }
        record Past(long id, Money value) {}
        var orders = jdbc.sql("""
            select id, net from (select id, net, state, number from sales_order
            where customer_id = :customer order by id desc
                fetch first 200 rows only) o
            where state not in ('DRAFT', 'CANCELLED', 'DECLINED') and number <> :number
              and id < coalesce((select m.id from sales_order m where m.number = :number), 9223372036854775807)
            order by id desc fetch first USUAL_OF rows only\
            """.replace("USUAL_OF", String.valueOf(USUAL_OF)))
                .param("customer", ids.customer(order.customer()))
                .param("number", order.number())
                .query((r, n) -> new Past(r.getLong(1), company.money(r.getBigDecimal(2))))
                .list();
        if (orders.size() < RobustScore.AT_LEAST) {
            return PastOrders.NONE;
        }
        var quantities = new HashMap<String, List<Quantity>>();
        jdbc.sql("""
            select item_code, sum(quantity) from sales_order_line
            where order_id in (:orders) and item_code in (:items) and removed = false
            group by item_code, order_id\
            """)
                .param("orders", orders.stream().map(Past::id).toList())
                .param("items", items)
                .query((r, n) -> quantities
                        .computeIfAbsent(r.getString(1), item -> new ArrayList<>())
                        .add(new Quantity(r.getBigDecimal(2))))
                .list();
        return new PastOrders(orders.stream().map(Past::value).toList(), quantities);
    }

    /**
     * A customer's position.
     *
     * @param beside an order whose undispatched value is left out, or empty
     */
    CustomerPosition position(String customer, String beside) {
        openOrders.bringUpToDate();
        return new CustomerPosition(
                term(
                        DocumentKind.INVOICE,
                        "select x.number, x.open_amount as amount from invoice x join customer c on c.id ="
                                + " x.customer_id where c.code = :customer and x.open_amount > 0 and x.number <> :beside",
                        customer,
                        beside),
                term(
                        DocumentKind.ORDER,
                        live("unbilled_gross", "o.number is not null or o.number = :beside"),
                        customer,
                        beside),
                term(
                        DocumentKind.ORDER,
                        live("open_gross", "x.cleared = true and o.number <> :beside"),
                        customer,
                        beside),
                both(
                        term(
                                DocumentKind.PAYMENT,
                                "select x.number, x.left_amount as amount from payment x join customer c on c.id ="
                                        + " x.customer_id where c.code = :customer and x.left_amount > 0 and x.number <>"
                                        + " :beside",
                                customer,
                                beside),
                        term(
                                DocumentKind.DEPOSIT,
                                "select x.number, x.left_amount as amount from deposit x join customer c on c.id ="
                                        + " x.customer_id where c.code = :customer and x.left_amount > 0 and x.number <>"
                                        + " :beside",
                                customer,
                                beside)));
    }

    private static Term both(Term one, Term other) {
        return new Term(
                one.sum().plus(other.sum()),
                Stream.concat(one.documents().stream(), other.documents().stream())
                        .sorted(Comparator.comparing((DocumentAmount document) -> document.amount())
                                .reversed())
                        .limit(NAMED)
                        .toList());
    }

    private static String live(String column, String which) {
        return "select o.number, x." + column + " as amount from open_order x join customer c on c.id = x.customer_id "
                + "join sales_order o on o.id = x.order_id where c.code = :customer and x." + column + " > 0 and ("
                + which + ")";
    }

    private Term term(DocumentKind kind, String sql, String customer, String beside) {
        var sum = jdbc.sql("select coalesce(sum(amount), 0) from (" + sql + ") t")
                .param("customer", customer)
                .param("beside", beside)
                .query((r, n) -> company.money(r.getBigDecimal(1)))
                .single();
        if (sum.isZero()) {
            return new Term(sum, List.of());
        }
        var documents = jdbc.sql(sql + " order by amount desc, 1 fetch first " + NAMED + " rows only")
                .param("customer", customer)
                .param("beside", beside)
                .query((r, n) ->
                        new DocumentAmount(new DocumentRef(kind, r.getString(1)), company.money(r.getBigDecimal(2))))
                .list();
        return new Term(sum, documents);
    }

    /** Open invoices past due, the oldest of them; asked for only where they could hold an order. */
    private List<CheckContext.DueInvoice> dueInvoices(CustomerRules customer, LocalDate on) {
        return customer.overdue().isEmpty()
                ? List.of()
                : jdbc.sql("""
                    select number, due_on, open_amount from invoice
                    where customer_id = ? and due_on < ? and open_amount > 0
                    order by customer_id, due_on, open_amount fetch first 40 rows only\
                    """)
                        .params(ids.customer(customer.code()), on)
                        .query((r, n) -> new CheckContext.DueInvoice(
                                r.getString(1), r.getObject(2, LocalDate.class), company.money(r.getBigDecimal(3))))
                        .list();
    }

    /** Of orders of the same value, so many of the newest are looked through for a slip of the pen. */
    private static final int SAME_VALUE = 500;

    /**
     * What of an order decides which others count (section 5).
     *
     * @param family orders that were split off one another stand for one order of the customer's
     * @param blanket the blanket order it was called off, null for none: others of it don't count
     * @param taken when it took its number, null while it has none
     */
    private record Standing(long family, Long blanket, Long taken) {

        /** Of an order that is not kept yet. */
        private static final Standing NEW = new Standing(0, null, null);

        /** Another order took its number before, and is not one with this. */
        private boolean follows(Standing other) {
            return other.family != family
                    && (blanket == null || !blanket.equals(other.blanket))
                    && (taken == null || other.taken < taken);
        }
    }

    private record Candidate(long id, Standing standing, PoUse use) {}

    /** Documents that took a PO number like this one's before it did: found by indexes, compared by the core. */
    private List<PoUse> poUses(Order order, LocalDate on, PoPlaces places, boolean ceiling) {
        var po = PoNumber.of(order.po());
        if (!po.isGiven()) {
            return List.of();
        }
        var net = order.totals().net();
        var parameters = Map.<String, Object>of(
                "customer",
                ids.customer(order.customer()),
                "po",
                po.normal(),
                "folded",
                po.folded(),
                "net",
                net.amount(),
                "length",
                po.normal().length(),
                "number",
                order.number());
        var own = jdbc.sql("""
            select coalesce(o.split_of, o.id), q.id, o.po_taken from sales_order o
            left join sales_agreement q on q.id = o.agreement_id and q.kind = 'BLANKET_ORDER' where o.number = ?\
            """)
                .param(order.number())
                .query((r, n) -> new Standing(r.getLong(1), r.getObject(2, Long.class), r.getObject(3, Long.class)))
                .optional()
                .orElse(Standing.NEW);
        var orders = new TreeMap<Long, PoUse>();
        jdbc
                .sql(likeThis(
                        "sales_order",
                        "id, number, po, ordered_on, net, state, coalesce(split_of, id), agreement_id, po_taken",
                        " and po_taken is not null and state not in ('CANCELLED', 'DECLINED') and number <> :number"))
                .params(parameters)
                .query((r, n) -> new Candidate(
                        r.getLong(1),
                        new Standing(r.getLong(7), r.getObject(8, Long.class), r.getLong(9)),
                        use(
                                r,
                                OrderState.valueOf(r.getString(6)).isEnded()
                                        ? PoUse.Place.CLOSED_ORDER
                                        : PoUse.Place.OPEN_ORDER)))
                .list()
                .stream()
                .filter(other -> own.follows(other.standing()))
                .forEach(other -> orders.put(other.id(), other.use()));
        var imported = new TreeMap<Long, PoUse>();
        jdbc.sql(likeThis("past_invoice", "id, number, po, invoiced_on, net", ""))
                .params(parameters)
                .query((r, n) -> imported.put(r.getLong(1), use(r, PoUse.Place.IMPORTED)))
                .list();
        var uses = Stream.of(orders, imported)
                .flatMap(found -> found.values().stream())
                .filter(use ->
                        po.likeness(net, PoNumber.of(use.po()), use.net()).isPresent())
                .toList();
        if (uses.isEmpty()) {
            return uses;
        }
        var ours = uses.stream()
                .filter(use -> use.place() != PoUse.Place.IMPORTED)
                .map(PoUse::order)
                .toList();
        var invoices = new HashMap<String, List<String>>();
        var billable = new HashSet<String>();
        if (!ours.isEmpty()) {
            jdbc.sql("""
                select distinct o.number, i.number from invoice_line l join invoice i on i.id = l.invoice_id
                join sales_order o on o.id = l.root_order_id
                where o.number in (:orders) and i.reversed_on is null order by 1, 2\
                """)
                    .param("orders", ours)
                    .query((r, n) -> invoices.computeIfAbsent(r.getString(1), o -> new ArrayList<>())
                            .add(r.getString(2)))
                    .list();
            billable.addAll(jdbc.sql("select o.number from open_order x join sales_order o on o.id = x.order_id"
                            + " where o.number in (:orders) and x.billable = true")
                    .param("orders", ours)
                    .query(String.class)
                    .list());
        }
        // only a ceiling asks what was cancelled of each
        var left = new HashMap<String, Money>();
        if (ceiling) {
            chains.chains(ours).forEach((number, chain) -> left.put(number, DuplicatePo.left(chain)));
        }
        return uses.stream()
                .map(use -> use.place() == PoUse.Place.IMPORTED
                        ? use
                        : new PoUse(
                                use.order(),
                                use.po(),
                                use.on(),
                                use.net(),
                                left.getOrDefault(use.order(), use.net()),
                                invoices.getOrDefault(use.order(), List.of()),
                                use.place(),
                                billable.contains(use.order())))
                .filter(use -> places.include(use, on))
                .toList();
    }

    private PoUse use(ResultSet row, PoUse.Place place) throws SQLException {
        var net = company.money(row.getBigDecimal(5));
        return new PoUse(
                row.getString(2),
                row.getString(3),
                row.getObject(4, LocalDate.class),
                net,
                net,
                List.of(),
                place,
                false);
    }

    /**
     * Rows with the same normal or folded form, and of those of the same value the ones whose number is about as long.
     */
    private static String likeThis(String table, String columns, String which) {
        return """
            select COLUMNS from TABLE where customer_id = :customer and po_normal = :poWHICH
            union select COLUMNS from TABLE where customer_id = :customer and po_folded = :foldedWHICH
            union select COLUMNS from (select * from TABLE where customer_id = :customer and net = :net
                order by customer_id desc, net desc, id desc fetch first SAME_VALUE rows only) v
                where char_length(po_normal) between :length - 1 and :length + 1WHICH\
            """.replace("TABLE", table)
                .replace("COLUMNS", columns)
                .replace("WHICH", which)
                .replace("SAME_VALUE", String.valueOf(SAME_VALUE));
    }
}
