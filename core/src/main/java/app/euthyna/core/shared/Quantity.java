package app.euthyna.core.shared;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Collection;

/**
 * A count or measure of goods or work in the item's unit, with up to three decimals. May be negative only as a
 * difference.
 */
public record Quantity(BigDecimal value) implements Comparable<Quantity> {

    public static final int DECIMALS = 3;
    public static final Quantity ZERO = new Quantity(BigDecimal.ZERO);

    public Quantity {
        value = value.setScale(DECIMALS, RoundingMode.UNNECESSARY).stripTrailingZeros();
        if (value.scale() < 0) {
            value = value.setScale(0, RoundingMode.UNNECESSARY);
        }
    }

    public static Quantity of(String value) {
        return new Quantity(new BigDecimal(value));
    }

    public static Quantity of(long value) {
        return new Quantity(BigDecimal.valueOf(value));
    }

    public static Quantity sum(Collection<Quantity> quantities) {
        return quantities.stream().reduce(ZERO, Quantity::plus);
    }

    public Quantity plus(Quantity other) {
        return new Quantity(value.add(other.value));
    }

    public Quantity minus(Quantity other) {
        return new Quantity(value.subtract(other.value));
    }

    public Quantity min(Quantity other) {
        return compareTo(other) <= 0 ? this : other;
    }

    public Quantity max(Quantity other) {
        return compareTo(other) >= 0 ? this : other;
    }

    public Quantity negated() {
        return new Quantity(value.negate());
    }

    public boolean isZero() {
        return value.signum() == 0;
    }

    public boolean isPositive() {
        return value.signum() > 0;
    }

    public boolean isNegative() {
        return value.signum() < 0;
    }

    public boolean exceeds(Quantity other) {
        return compareTo(other) > 0;
    }

    @Override
    public int compareTo(Quantity other) {
        return value.compareTo(other.value);
    }

    @Override
    public String toString() {
        return Figures.grouped(value);
    }
}
