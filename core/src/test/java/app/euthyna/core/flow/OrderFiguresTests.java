package app.euthyna.core.flow;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Money;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class OrderFiguresTests {

    private static final Map<String, OrderFigures.Measures> MEASURES = Map.of(
            "ROPE", measures("0.045", "0.000051"),
            "ANCHOR", measures("20", "0.030"));

    private static OrderFigures.Measures measures(String weight, String volume) {
        return new OrderFigures.Measures(Optional.of(new BigDecimal(weight)), Optional.of(new BigDecimal(volume)));
    }

    /** 100 m at 1.00 and an anchor at 250.00, an hour of work: the anchor has left at 155.00, rope costs 0.6255 a m. */
    private static Chain order100() {
        var order = order(
                "SO-1",
                OrderState.CLEARED,
                stock(1, "ROPE", "100", "1.00", "21"),
                stock(2, "ANCHOR", "1", "250.00", "21"),
                line(3, LineKind.SERVICE, "HOUR", "1", "50.00", "21"));
        var left = new Dispatch(
                "DN-1",
                "SO-1",
                "S",
                Dispatch.State.DEPARTED,
                TODAY,
                List.of(new Dispatch.Line(1, 2, "ANCHOR", q(1), eur("155.00"))));
        return new Chain(order, List.of(), Map.of(), List.of(left), List.of(), List.of(), List.of(), List.of());
    }

    private static OrderFigures of(Chain chain, Map<String, BigDecimal> unitCosts) {
        return OrderFigures.of(chain, unitCosts, MEASURES);
    }

    @Test
    void costOfWhatLeftIsItsOwnAndOfTheRestTheAverageNow() {
        var figures = of(order100(), Map.of("ROPE", new BigDecimal("0.6255"), "ANCHOR", new BigDecimal("999")));
        assertThat(figures.net()).isEqualTo(eur("400.00"));
        assertThat(figures.cost().known()).isEqualTo(eur("217.55"));
        assertThat(figures.margin()).contains(eur("182.45"));
        // 182.45 / 400 = 45.6125 %
        assertThat(figures.marginPercent()).contains(new BigDecimal("45.6"));
    }

    @Test
    void marginCannotBeToldOfGoodsThatNobodyHas() {
        var figures = of(order100(), Map.of("ANCHOR", BigDecimal.TEN));
        assertThat(figures.cost().unknown()).containsExactly(1);
        assertThat(figures.cost().known()).isEqualTo(eur("155.00"));
        assertThat(figures.margin()).isEmpty();
        assertThat(figures.marginPercent()).isEmpty();
    }

    @Test
    void whatIsCancelledBringsCostsAndWeighsNothing() {
        var cancelled = order100()
                .after(new Effect.QuantityCancelled(new Cancellation(
                        "CA-1", "SO-1", TODAY, "no longer wanted", List.of(new Cancellation.Line(1, q(60))))));
        var figures = of(cancelled, Map.of("ROPE", BigDecimal.ONE));
        assertThat(figures.net()).isEqualTo(eur("340.00"));
        assertThat(figures.cost().known()).isEqualTo(eur("195.00"));
        // 40 × 0.045 + 20; 40 × 0.000051 + 0.03
        assertThat(figures.weight().known()).isEqualTo("21.800");
        assertThat(figures.volume().known()).isEqualTo("0.032040");
    }

    @Test
    void linesOfUnknownWeightAreNamedAndLeftOut() {
        var figures = OrderFigures.of(
                order100(),
                Map.of(),
                Map.of("ROPE", new OrderFigures.Measures(Optional.of(new BigDecimal("0.045")), Optional.empty())));
        assertThat(figures.weight().known()).isEqualTo("4.500");
        assertThat(figures.weight().unknown()).containsExactly(2);
        assertThat(figures.volume().known()).isEqualTo("0.000000");
        assertThat(figures.volume().unknown()).containsExactly(1, 2);
    }

    /**
     * Of any order of which all has left and is billed, and nothing came back or was credited, what is billed is what
     * it brings.
     */
    @Test
    void figuresOfAFinishedOrderAreThoseOfItsDocuments() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("figures of orders from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        int exact = 0;
        for (int at = 0; at < Rounds.of(1_500); at++) {
            var history = new RandomHistory(new Random(seed + at), "seed " + seed + ", history " + at, new TreeMap<>());
            history.live();
            for (var chain : history.chains.values()) {
                var figures = of(chain, Map.of());
                var left = sum(chain.dispatches().stream()
                        .filter(dispatch -> dispatch.state() == Dispatch.State.DEPARTED)
                        .map(dispatch -> dispatch.cost(chain.order().currency()))
                        .toList());
                assertThat(figures.cost().known())
                        .as("seed %d, history %d", seed, at)
                        .isEqualTo(left);
                if (chain.nothingToShipOrBill()
                        && chain.returns().isEmpty()
                        && chain.credits().isEmpty()) {
                    var bills = chain.inForce()
                            .flatMap(invoice -> invoice.lines().stream())
                            .filter(line -> line.orderLine()
                                    .number()
                                    .equals(chain.order().number()))
                            .toList();
                    // each bill is rounded for itself: by less than a cent
                    assertThat(figures.net()
                                    .minus(sum(bills.stream()
                                            .map(Invoice.Line::net)
                                            .toList()))
                                    .amount()
                                    .abs())
                            .as("seed %d, history %d, %s", seed, at, history.told)
                            .isLessThanOrEqualTo(BigDecimal.valueOf(bills.size(), 2));
                    if (bills.stream().map(Invoice.Line::orderLine).distinct().count() == bills.size()) {
                        exact++;
                        assertThat(figures.net())
                                .as("seed %d, history %d, %s", seed, at, history.told)
                                .isEqualTo(sum(
                                        bills.stream().map(Invoice.Line::net).toList()));
                    }
                    assertThat(figures.margin()).contains(figures.net().minus(left));
                }
            }
        }
        assertThat(exact).isGreaterThan(Rounds.areAll() ? 20 : 0);
    }

    private static Money sum(List<Money> amounts) {
        return amounts.stream().reduce(eur("0.00"), Money::plus);
    }
}
