package app.euthyna.server.check;

import app.euthyna.core.check.CheckContext;
import app.euthyna.core.check.CustomerPosition;
import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.DocumentAmount;
import app.euthyna.core.check.DuplicatePo;
import app.euthyna.core.check.PastOrders;
import app.euthyna.core.check.PoNumber;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoUse;
import app.euthyna.core.check.RobustScore;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.flow.OpenOrderSink;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** What the checks of an order look at of its customer: the position, invoices past due, PO numbers, earlier orders. */
@Component
class CustomerFacts {

    /** A term's sum is exact; of its documents the largest are named. */
    private static final int NAMED = 40;

    private final FactQueries queries;
    private final OpenOrderSink openOrders;
    private final ChainReader chains;
    private final People people;
    private final Company company;
    private final Ids ids;

    CustomerFacts(
            FactQueries queries,
            OpenOrderSink openOrders,
            ChainReader chains,
            People people,
            Company company,
            Ids ids) {
        this.queries = queries;
        this.openOrders = openOrders;
        this.chains = chains;
        this.people = people;
        this.company = company;
        this.ids = ids;
    }

    /** The position of a customer of whom nothing is asked. */
    CustomerPosition nothing() {
        return CustomerPosition.nothing(company.currency());
    }

    /** The role of whoever wrote an order. */
    Optional<Role> roleOf(String author) {
        return people.rolesOf(Set.of(author)).stream().findFirst();
    }

    /** So many earlier orders say what is usual for a customer. */
    private static final int USUAL_OF = 60;

    /** What is usual for a customer. */
    PastOrders past(Order order, Set<String> items) {
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
        openOrders.bringUpToDateBut(beside);
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

    /**
     * Open invoices past due, the oldest of them; asked for only where they could hold an order.
     *
     * @param disputesAside what is disputed of them is left out
     */
    List<CheckContext.DueInvoice> dueInvoices(CustomerRules customer, LocalDate on, boolean disputesAside) {
        return customer.overdue().isEmpty()
                ? List.of()
                : queries.dueInvoices(ids.customer(customer.code()), on, disputesAside).stream()
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
    List<PoUse> poUses(Order order, LocalDate on, PoPlaces places, boolean ceiling) {
        var po = PoNumber.of(order.po());
        if (!po.isGiven()) {
            return List.of();
        }
        var uses = like(order, po);
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

    /** Documents with a PO number like this one's, which they took before. */
    private List<PoUse> like(Order order, PoNumber po) {
        var net = order.totals().net();
        var customer = ids.customer(order.customer());
        var own = queries.standing(order.number())
                .map(row -> new Standing(row.family(), row.blanket(), row.poTaken()))
                .orElse(Standing.NEW);
        var orders = new TreeMap<Long, PoUse>();
        queries.ordersLike(customer, po, net.amount(), order.number())
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
        queries.pastInvoicesLike(customer, po, net.amount())
                .forEach(row ->
                        imported.put(row.id(), use(row.number(), row.po(), row.on(), row.net(), PoUse.Place.IMPORTED)));
        return Stream.of(orders, imported)
                .flatMap(found -> found.values().stream())
                .filter(use ->
                        po.likeness(net, PoNumber.of(use.po()), use.net()).isPresent())
                .toList();
    }

    private PoUse use(String number, String po, LocalDate on, BigDecimal net, PoUse.Place place) {
        var value = company.money(net);
        return new PoUse(number, po, on, value, value, List.of(), place, false);
    }
}
