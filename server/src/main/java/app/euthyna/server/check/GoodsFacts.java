package app.euthyna.server.check;

import app.euthyna.core.check.ItemFact;
import app.euthyna.core.check.LicenceFact;
import app.euthyna.core.check.Quota;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.Licences;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.math.MathContext;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** What the checks of an order look at of its goods: stock, prices, licences, quotas. */
@Component
class GoodsFacts {

    private final FactQueries queries;
    private final MasterData masterData;
    private final Licences licenceRegister;
    private final QuotaStore quotas;

    GoodsFacts(FactQueries queries, MasterData masterData, Licences licenceRegister, QuotaStore quotas) {
        this.queries = queries;
        this.masterData = masterData;
        this.licenceRegister = licenceRegister;
        this.quotas = quotas;
    }

    /** Items with their shelves at one store, read at once. */
    record Goods(Map<String, Item> known, Map<String, Shelf> shelves) {

        /** What the checks look at of each. */
        Map<String, ItemFact> facts() {
            var items = new HashMap<String, ItemFact>();
            known.forEach((code, item) -> items.put(
                    code,
                    new ItemFact(
                            item.price(),
                            Optional.of(item.floor()).filter(floor -> floor.signum() > 0),
                            Optional.ofNullable(shelves.get(code)).flatMap(Shelf::unitCost),
                            item.leadDays(),
                            Optional.of(item.regulated()).filter(licenceClass -> !licenceClass.isEmpty()))));
            return items;
        }
    }

    Goods of(Order order) {
        var codes = codes(order);
        return new Goods(masterData.items(codes), shelves(codes, order.site()));
    }

    private static Set<String> codes(Order order) {
        return order.lines().stream()
                .map(OrderLine::item)
                .filter(item -> !item.isEmpty())
                .collect(Collectors.toSet());
    }

    /** What the register says of the customer's licences that the goods ask for. */
    Map<String, LicenceFact> licences(Goods goods, Customer customer, LocalDate on) {
        var licences = new HashMap<String, LicenceFact>();
        for (var item : goods.known().values()) {
            if (!item.regulated().isEmpty() && !licences.containsKey(item.regulated())) {
                var number = customer.licences().get(item.regulated());
                licences.put(
                        item.regulated(),
                        number == null
                                ? LicenceFact.none(item.regulated())
                                : licenceRegister.ask(item.regulated(), number, on));
            }
        }
        return licences;
    }

    /** How far quotas of the order's goods are used. */
    List<Quota> quotas(Order order, Customer customer, LocalDate on) {
        return quotas.of(order, customer, on);
    }

    /** Free stock for an order's lines, by {@link Order#place}. */
    Map<String, Quantity> free(Order order) {
        return free(order, shelves(codes(order), order.site()));
    }

    Map<String, Quantity> free(Order order, Map<String, Shelf> shelves) {
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

    record Shelf(String item, Quantity free, BigDecimal onHand, BigDecimal value) {

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
}
