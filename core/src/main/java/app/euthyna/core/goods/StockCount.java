package app.euthyna.core.goods;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What a count does to a shelf. */
public final class StockCount {

    private StockCount() {}

    /**
     * Goods held for an order line.
     *
     * @param place in the queue for stock; the last gives up first
     */
    public record Held(LineRef orderLine, Quantity quantity, Claim place) {}

    /**
     * Brings a shelf to what was counted. What is found goes in at the moving average, or at the cost given where the
     * shelf was empty; what is missing goes out at it. Where less is left than is held for orders, the last in the
     * queue give up theirs first.
     *
     * @param held reservations on the shelf that are not staged
     * @param unitCost for goods found where none were
     */
    public static Decision<List<Effect>> count(
            String number,
            Shelf shelf,
            Quantity counted,
            Optional<BigDecimal> unitCost,
            List<Held> held,
            String reason) {
        if (counted.isNegative()) {
            return Decision.refused(CommonRefusal.Incomplete.of("counted", "zero or more"));
        }
        if (reason.isBlank()) {
            return Decision.refused(CommonRefusal.Incomplete.of("reason", "a reason for the count"));
        }
        var by = counted.minus(shelf.onHand());
        if (by.isZero()) {
            return Decision.refused(CommonRefusal.Incomplete.of(
                    "counted", "a quantity other than the book quantity of %s".formatted(shelf.onHand())));
        }
        if (by.isPositive() && shelf.onHand().isZero() && unitCost.isEmpty()) {
            return Decision.refused(CommonRefusal.Incomplete.of("unitCost", "a unit cost, since the stock was empty"));
        }
        if (unitCost.filter(
                        cost -> cost.signum() < 0 || cost.stripTrailingZeros().scale() > Price.DECIMALS)
                .isPresent()) {
            return Decision.refused(
                    CommonRefusal.Incomplete.of("unitCost", "a cost of zero or more with at most 4 decimals"));
        }
        var reserved = Quantity.sum(held.stream().map(Held::quantity).toList());
        var staged = shelf.reserved().minus(reserved);
        if (staged.exceeds(counted)) {
            return Decision.refused(new GoodsRefusal.Staged(shelf.item(), counted, staged));
        }
        var effects = new ArrayList<Effect>(givenUp(shelf, shelf.reserved().minus(counted), held));
        effects.add(new Effect.StockCounted(number, shelf.site(), shelf.item(), by, value(shelf, by, unitCost)));
        return Decision.of(effects);
    }

    private static Money value(Shelf shelf, Quantity by, Optional<BigDecimal> unitCost) {
        if (by.isNegative()) {
            return shelf.cost(by.negated()).negated();
        }
        return shelf.onHand().isZero() ? shelf.valueAt(by, unitCost.orElseThrow()) : shelf.cost(by);
    }

    /** What of the reservations is given up where a shelf lacks goods for them: the last in the queue first. */
    public static List<Effect.ReservationReleased> givenUp(Shelf shelf, Quantity lacking, List<Held> held) {
        var given = new ArrayList<Effect.ReservationReleased>();
        var left = lacking;
        for (var one : held.stream()
                .sorted((a, b) -> Claim.QUEUE.compare(b.place(), a.place()))
                .toList()) {
            var taken = left.min(one.quantity());
            if (taken.isPositive()) {
                given.add(new Effect.ReservationReleased(one.orderLine(), shelf.site(), shelf.item(), taken));
                left = left.minus(taken);
            }
        }
        return given;
    }
}
