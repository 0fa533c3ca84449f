package app.euthyna.core.flow;

import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * What an order brings, costs, weighs and fills: of all that was ordered less what was cancelled, before anything comes
 * back.
 *
 * @param net at the order's prices
 * @param cost of goods that have left, what they left with; of those that have not, the moving average of their store
 *     now. Services and charges cost nothing here
 * @param weight in kilograms
 * @param volume in cubic metres
 */
public record OrderFigures(Money net, Sum<Money> cost, Sum<BigDecimal> weight, Sum<BigDecimal> volume) {

    /** Kilograms are told to the gram, cubic metres to the cubic centimetre. */
    public static final int WEIGHT_DECIMALS = 3;

    public static final int VOLUME_DECIMALS = 6;

    /**
     * A sum over the lines with goods.
     *
     * @param unknown the lines of which it can't be told; they are not in it
     */
    public record Sum<T>(T known, List<Integer> unknown) {
        public Sum {
            unknown = List.copyOf(unknown);
        }

        private Optional<T> whole() {
            return unknown.isEmpty() ? Optional.of(known) : Optional.empty();
        }
    }

    /**
     * What a unit of an item measures.
     *
     * @param weight in kilograms
     * @param volume in cubic metres
     */
    public record Measures(Optional<BigDecimal> weight, Optional<BigDecimal> volume) {
        public static final Measures UNKNOWN = new Measures(Optional.empty(), Optional.empty());
    }

    /**
     * Those of an order as it stands.
     *
     * @param unitCosts moving average by {@link app.euthyna.core.order.Order#place}, where something is on the shelf
     * @param measures by item
     */
    public static OrderFigures of(Chain chain, Map<String, BigDecimal> unitCosts, Map<String, Measures> measures) {
        var order = chain.order();
        var flows = chain.flows();
        var net = Money.zero(order.currency());
        var cost = chain.dispatches().stream()
                .filter(dispatch -> dispatch.state() == Dispatch.State.DEPARTED)
                .map(dispatch -> dispatch.cost(order.currency()))
                .reduce(Money.zero(order.currency()), Money::plus);
        var unknown = new ArrayList<Integer>();
        for (var flow : flows) {
            var line = flow.line();
            if (!order.isAtNoCharge(line)) {
                net = net.plus(line.net(kept(flow), order.currency()));
            }
            var unit = unitCosts.get(order.place(line));
            if (flow.toShip().isPositive() && unit == null) {
                unknown.add(line.no());
            } else if (flow.toShip().isPositive()) {
                cost = cost.plus(Money.rounded(flow.toShip().value().multiply(unit), order.currency()));
            }
        }
        var goods = flows.stream()
                .filter(flow -> flow.line().kind().isShipped() && kept(flow).isPositive())
                .toList();
        return new OrderFigures(
                net,
                new Sum<>(cost, unknown),
                measured(goods, WEIGHT_DECIMALS, item -> of(measures, item).weight()),
                measured(goods, VOLUME_DECIMALS, item -> of(measures, item).volume()));
    }

    private static Measures of(Map<String, Measures> measures, String item) {
        return measures.getOrDefault(item, Measures.UNKNOWN);
    }

    private static Quantity kept(LineFlow flow) {
        return flow.ordered().minus(flow.cancelled());
    }

    private static Sum<BigDecimal> measured(
            List<LineFlow> goods, int decimals, Function<String, Optional<BigDecimal>> ofUnit) {
        var sum = goods.stream()
                .flatMap(flow -> ofUnit.apply(flow.line().item()).stream()
                        .map(unit -> unit.multiply(kept(flow).value())))
                .reduce(BigDecimal.ZERO, BigDecimal::add)
                .setScale(decimals, RoundingMode.HALF_UP);
        return new Sum<>(
                sum,
                goods.stream()
                        .map(LineFlow::line)
                        .filter(line -> ofUnit.apply(line.item()).isEmpty())
                        .map(OrderLine::no)
                        .toList());
    }

    /** Gross margin: net less cost of sales (IAS 1.103); empty where the cost of a line can't be told. */
    public Optional<Money> margin() {
        return cost.whole().map(net::minus);
    }

    /** The same in per cent of net, with one decimal; empty too where nothing is charged. */
    public Optional<BigDecimal> marginPercent() {
        return margin().filter(margin -> net.isPositive())
                .map(margin -> margin.amount()
                        .multiply(BigDecimal.valueOf(100))
                        .divide(net.amount(), 1, RoundingMode.HALF_UP));
    }
}
