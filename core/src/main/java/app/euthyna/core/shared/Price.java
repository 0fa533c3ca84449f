package app.euthyna.core.shared;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Currency;

/** A unit price with up to four decimals and its discount in per cent, as agreed on a line. Neither is negative. */
public record Price(BigDecimal unit, BigDecimal discountPercent) {

    public static final int DECIMALS = 4;
    private static final BigDecimal HUNDRED = BigDecimal.valueOf(100);

    public Price {
        unit = unit.setScale(DECIMALS, RoundingMode.UNNECESSARY);
        discountPercent = discountPercent.setScale(DECIMALS, RoundingMode.UNNECESSARY);
        if (unit.signum() < 0) {
            throw new IllegalArgumentException("a unit price below zero: " + unit);
        }
        if (discountPercent.signum() < 0 || discountPercent.compareTo(HUNDRED) > 0) {
            throw new IllegalArgumentException("a discount outside 0 to 100 per cent: " + discountPercent);
        }
    }

    public static Price of(String unit) {
        return new Price(new BigDecimal(unit), BigDecimal.ZERO);
    }

    /** Line net = round(quantity × unit price × (1 − discount %)), half-up to the minor unit (section 1). */
    public Money net(Quantity quantity, Currency currency) {
        var exact = quantity.value()
                .multiply(unit)
                .multiply(HUNDRED.subtract(discountPercent))
                .divide(HUNDRED);
        return Money.rounded(exact, currency);
    }

    /** Nothing is to be paid: the price is zero, or all of it is taken off. */
    public boolean isFree() {
        return unit.signum() == 0 || discountPercent.compareTo(HUNDRED) == 0;
    }

    /** The unit price after discount is lower than the other's. */
    public boolean isBelow(Price other) {
        return afterDiscount().compareTo(other.afterDiscount()) < 0;
    }

    /** The unit price less its discount, exact. */
    public BigDecimal afterDiscount() {
        return unit.multiply(HUNDRED.subtract(discountPercent)).divide(HUNDRED);
    }
}
