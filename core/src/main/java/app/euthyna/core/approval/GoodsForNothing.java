package app.euthyna.core.approval;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.core.shared.RoleLimits;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Goods for nothing: lines at no charge, of whatever kind of order. What they are worth at list price needs somebody
 * whose limit covers it, where whoever wrote the order has a lower one (section 15). Many small gifts are a large one:
 * what the same people gave the same customer of late, and nobody else agreed to, counts too.
 *
 * @param limits of roles
 * @param listPrices per unit, by item
 * @param writtenBy roles of all who wrote the order; the lowest limit of theirs counts
 * @param before what they gave the customer in {@link #DAYS_TOGETHER} days
 */
public record GoodsForNothing(
        RoleLimits limits, Map<String, BigDecimal> listPrices, Set<Role> writtenBy, List<Given> before) {

    /** Gifts within so many days count together. */
    public static final int DAYS_TOGETHER = 30;

    public static final GoodsForNothing UNLIMITED = new GoodsForNothing(RoleLimits.NONE, Map.of(), Set.of(), List.of());

    /** Goods at no charge. */
    public record Given(String item, Quantity quantity) {}

    public GoodsForNothing {
        listPrices = Map.copyOf(listPrices);
        writtenBy = Set.copyOf(writtenBy);
        before = List.copyOf(before);
    }

    /** The lines of an order at no charge. */
    public static Stream<OrderLine> lines(Order order) {
        return order.lines().stream()
                .filter(line -> line.kind().isBilled() && line.price().isFree());
    }

    /** What an order gives away, at list price. */
    Money value(Order order) {
        return value(lines(order).map(line -> new Given(line.item(), line.quantity())), order.currency());
    }

    private Money value(Stream<Given> goods, Currency currency) {
        return goods.map(given -> new Price(listPrices.getOrDefault(given.item(), BigDecimal.ZERO), BigDecimal.ZERO)
                        .net(given.quantity(), currency))
                .reduce(Money.zero(currency), Money::plus);
    }

    /** The lowest level whose limit covers what the order gives away; empty where its writers' limits do. */
    Optional<Approving.Ask> asks(Order order) {
        var value = value(order);
        var together = value.plus(value(before.stream(), order.currency()));
        return writtenBy.stream()
                .flatMap(role -> limits.of(role).stream())
                .min(Comparator.naturalOrder())
                .filter(limit -> !value.isZero() && together.compareTo(limit) > 0)
                .map(limit -> new Approving.Ask(
                        covering(together),
                        before.isEmpty()
                                ? "goods for nothing are %s at list price, above %s".formatted(value, limit)
                                : "goods for nothing are %s at list price, %s with those of %d days, above %s"
                                        .formatted(value, together, DAYS_TOGETHER, limit)));
    }

    private Level covering(Money value) {
        return Arrays.stream(Level.values())
                .filter(level -> limits.of(level.roles().get(0))
                        .filter(limit -> value.compareTo(limit) > 0)
                        .isEmpty())
                .findFirst()
                .orElse(Level.LEAD);
    }
}
