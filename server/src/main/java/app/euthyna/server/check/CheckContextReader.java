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
import app.euthyna.server.masterdata.Licences;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.math.MathContext;
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
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** Gathers what the checks of an order look at. */
@Component
class CheckContextReader {

    /** A term's sum is exact; of its documents the largest are named. */
    private static final int NAMED = 40;

    private final FactQueries queries;
    private final MasterData masterData;
    private final Company company;
    private final OpenOrderSink openOrders;
    private final Ids ids;
    private final CompanyRulesStore rules;
    private final Licences licenceRegister;
    private final QuotaStore quotas;
    private final ChainReader chains;
    private final People people;

    CheckContextReader(
            FactQueries queries,
            MasterData masterData,
            Company company,
            OpenOrderSink openOrders,
            Ids ids,
            CompanyRulesStore rules,
            Licences licenceRegister,
            QuotaStore quotas,
            ChainReader chains,
            People people) {
        this.people = people;
        this.chains = chains;
        this.rules = rules;
        this.licenceRegister = licenceRegister;
        this.quotas = quotas;
        this.ids = ids;
        this.openOrders = openOrders;
        this.queries = queries;
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
                                : licenceRegister.ask(item.regulated(), number, on));
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
                : queries.shelves(Many.names(items), site).stream()
                        .map(row -> new Shelf(
                                row.item(),
                                new Quantity(row.onHand().subtract(row.reserved())),
                                row.onHand(),
                                row.stockValue()))
                        .collect(Collectors.toMap(Shelf::item, shelf -> shelf));
    }

    /** What other stores than one have free of an item. */
    Map<String, Quantity> freeElsewhere(String item, String site) {
        var free = new TreeMap<String, Quantity>();
        queries.freeElsewhere(item, site).forEach(row -> free.put(row.site(), new Quantity(row.onHand())));
        return free;
    }

    private Optional<Role> roleOf(String author) {
        return people.rolesOf(Set.of(author)).stream().findFirst();
    }

    /** So many earlier orders say what is usual for a customer. */
    private static final int USUAL_OF = 60;

    private PastOrders past(Order order, Set<String> items) {
        if (items.isEmpty()) {
            return PastOrders.NONE;
        }
        var orders = queries.earlier(ids.customer(order.customer()), order.number(), USUAL_OF);
        if (orders.size() < RobustScore.AT_LEAST) {
            return PastOrders.NONE;
        }
        var quantities = new HashMap<String, List<Quantity>>();
        queries.usualQuantities(
                        Many.ids(orders.stream().map(FactQueries.EarlierRow::id).toList()), Many.names(items))
                .forEach(row -> quantities
                        .computeIfAbsent(row.itemCode(), item -> new ArrayList<>())
                        .add(new Quantity(row.quantity())));
        return new PastOrders(
                orders.stream().map(past -> company.money(past.net())).toList(), quantities);
    }

    /**
     * A customer's position.
     *
     * @param beside an order whose undispatched value is left out, or empty
     */
    CustomerPosition position(String customer, String beside) {
        openOrders.bringUpToDate();
        var sums = queries.position(customer, beside);
        return new CustomerPosition(
                term(DocumentKind.INVOICE, sums.unpaid(), () -> queries.unpaid(customer)),
                term(DocumentKind.ORDER, sums.unbilled(), () -> queries.unbilled(customer)),
                term(DocumentKind.ORDER, sums.cleared(), () -> queries.clearedNotShipped(customer, beside)),
                both(
                        term(DocumentKind.PAYMENT, sums.credit(), () -> queries.credit(customer)),
                        term(DocumentKind.DEPOSIT, sums.deposits(), () -> queries.deposits(customer))));
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

    private Term term(DocumentKind kind, BigDecimal sum, Supplier<List<FactQueries.ShareRow>> shares) {
        var total = company.money(sum);
        return total.isZero()
                ? new Term(total, List.of())
                : new Term(
                        total,
                        shares.get().stream()
                                .map(row -> new DocumentAmount(
                                        new DocumentRef(kind, row.number()), company.money(row.amount())))
                                .toList());
    }

    /** Open invoices past due, the oldest of them; asked for only where they could hold an order. */
    private List<CheckContext.DueInvoice> dueInvoices(CustomerRules customer, LocalDate on) {
        return customer.overdue().isEmpty()
                ? List.of()
                : queries.dueInvoices(ids.customer(customer.code()), on).stream()
                        .map(row ->
                                new CheckContext.DueInvoice(row.number(), row.dueOn(), company.money(row.openAmount())))
                        .toList();
    }

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

    /** Documents that took a PO number like this one's before it did: found by indexes, compared by the core. */
    private List<PoUse> poUses(Order order, LocalDate on, PoPlaces places, boolean ceiling) {
        var po = PoNumber.of(order.po());
        if (!po.isGiven()) {
            return List.of();
        }
        var net = order.totals().net();
        var customer = ids.customer(order.customer());
        var length = po.normal().length();
        var own = queries.standing(order.number())
                .map(row -> new Standing(row.family(), row.blanket(), row.poTaken()))
                .orElse(Standing.NEW);
        var orders = new TreeMap<Long, PoUse>();
        queries.ordersLike(customer, po.normal(), po.folded(), net.amount(), length, order.number()).stream()
                .filter(row -> own.follows(new Standing(row.family(), row.blanket(), row.taken())))
                .forEach(row -> orders.put(
                        row.id(),
                        use(
                                row.number(),
                                row.po(),
                                row.on(),
                                row.net(),
                                row.state().isEnded() ? PoUse.Place.CLOSED_ORDER : PoUse.Place.OPEN_ORDER)));
        var imported = new TreeMap<Long, PoUse>();
        queries.pastInvoicesLike(customer, po.normal(), po.folded(), net.amount(), length)
                .forEach(row ->
                        imported.put(row.id(), use(row.number(), row.po(), row.on(), row.net(), PoUse.Place.IMPORTED)));
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
            queries.invoicesOf(Many.names(ours))
                    .forEach(row -> invoices.computeIfAbsent(row.order(), o -> new ArrayList<>())
                            .add(row.invoice()));
            billable.addAll(queries.billable(Many.names(ours)));
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

    private PoUse use(String number, String po, LocalDate on, BigDecimal net, PoUse.Place place) {
        var value = company.money(net);
        return new PoUse(number, po, on, value, value, List.of(), place, false);
    }
}
