package app.euthyna.core.goods;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.math.RoundingMode;

/**
 * Stock of one item at one site, valued at moving average (section 1; the weighted average cost formula of IAS 2.27).
 *
 * @param reserved held for orders, staged goods among them; never more than is on hand
 * @param value of all that is on hand
 */
public record Shelf(String site, String item, Quantity onHand, Quantity reserved, Money value) {

    public Shelf {
        if (onHand.isNegative()
                || reserved.isNegative()
                || reserved.exceeds(onHand)
                || value.isNegative()
                || (onHand.isZero() && !value.isZero())) {
            throw new IllegalArgumentException("no such shelf: %s at %s with %s on hand, %s reserved, worth %s"
                    .formatted(item, site, onHand, reserved, value));
        }
    }

    public Quantity free() {
        return onHand.minus(reserved);
    }

    /**
     * The value that leaves with a quantity: round(quantity × value ÷ on hand); what empties the shelf takes all that
     * is left.
     */
    public Money cost(Quantity leaving) {
        if (leaving.equals(onHand)) {
            return value;
        }
        var digits = value.currency().getDefaultFractionDigits();
        return new Money(
                leaving.value().multiply(value.amount()).divide(onHand.value(), digits, RoundingMode.HALF_UP),
                value.currency());
    }

    public Shelf reserve(Quantity quantity) {
        return new Shelf(site, item, onHand, reserved.plus(quantity), value);
    }

    public Shelf release(Quantity quantity) {
        return new Shelf(site, item, onHand, reserved.minus(quantity), value);
    }

    /** Reserved goods leave. */
    public Shelf issue(Quantity quantity, Money cost) {
        return new Shelf(site, item, onHand.minus(quantity), reserved.minus(quantity), value.minus(cost));
    }

    /** What the books said of the shelf gives way to a count; reserved goods stay. */
    public Shelf correct(Quantity by, Money cost) {
        return new Shelf(site, item, onHand.plus(by), reserved, value.plus(cost));
    }

    public Shelf receive(Quantity quantity, Money cost) {
        return new Shelf(site, item, onHand.plus(quantity), reserved, value.plus(cost));
    }

    /** Value of goods that come in at a unit cost. */
    public Money valueAt(Quantity quantity, BigDecimal unitCost) {
        return Money.rounded(quantity.value().multiply(unitCost), value.currency());
    }
}
