package app.euthyna.server.sheet;

import app.euthyna.core.flow.OrderFigures;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.shared.Money;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.math.MathContext;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** What an order brings, costs, weighs and fills. */
@RestController
class OrderSheets {

    private final DocumentChains chains;
    private final MasterData masterData;
    private final SheetQueries queries;

    OrderSheets(DocumentChains chains, MasterData masterData, SheetQueries queries) {
        this.chains = chains;
        this.masterData = masterData;
        this.queries = queries;
    }

    /**
     * Of all that was ordered less what was cancelled.
     *
     * @param net at the order's prices
     * @param margin net less cost; null where the cost of a line can't be told
     * @param withoutCost lines of which it can't: they have not left, and their store has none
     * @param weight in kilograms, of the lines whose weight is known
     * @param withoutWeight the others
     * @param volume in cubic metres, likewise
     */
    record FiguresView(
            BigDecimal net,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal cost,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal margin,
            @Nullable @ReadBy(ReadBy.Group.COSTS) BigDecimal marginPercent,
            @Nullable @ReadBy(ReadBy.Group.COSTS) List<Integer> withoutCost,
            BigDecimal weight,
            List<Integer> withoutWeight,
            BigDecimal volume,
            List<Integer> withoutVolume) {}

    @GetMapping("/api/orders/{number}/figures")
    FiguresView figures(@PathVariable String number) {
        var chain = chains.ofOrder(number);
        var goods = chain.order().lines().stream()
                .filter(line -> line.kind() == LineKind.STOCK)
                .toList();
        var items = goods.stream().map(OrderLine::item).collect(Collectors.toSet());
        var measures = masterData.items(items).values().stream().collect(Collectors.toMap(Item::code, Item::measures));
        var figures = OrderFigures.of(chain, unitCosts(chain.order(), goods), measures);
        return new FiguresView(
                figures.net().amount(),
                figures.cost().known().amount(),
                figures.margin().map(Money::amount).orElse(null),
                figures.marginPercent().orElse(null),
                figures.cost().unknown(),
                figures.weight().known(),
                figures.weight().unknown(),
                figures.volume().known(),
                figures.volume().unknown());
    }

    /** Moving averages now, by the place that a line leaves from. */
    private Map<String, BigDecimal> unitCosts(Order order, List<OrderLine> goods) {
        if (goods.isEmpty()) {
            return Map.of();
        }
        var costs = new HashMap<String, BigDecimal>();
        queries.averages(Many.names(
                        goods.stream().map(OrderLine::item).distinct().toList()))
                .forEach(shelf -> goods.stream()
                        .filter(line -> line.item().equals(shelf.item())
                                && order.siteOf(line).equals(shelf.site()))
                        .forEach(line -> costs.put(
                                order.place(line), shelf.stockValue().divide(shelf.onHand(), MathContext.DECIMAL64))));
        return costs;
    }
}
