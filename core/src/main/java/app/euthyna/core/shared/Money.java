package app.euthyna.core.shared;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Currency;
import java.util.Objects;

/**
 * An exact amount in one currency, always at that currency's minor unit. Never rounds by itself: a figure with more
 * decimals enters through {@link #rounded}, which rounds half-up as section 1 of the domain reference asks.
 */
public record Money(BigDecimal amount, Currency currency) implements Comparable<Money> {

    public Money {
        Objects.requireNonNull(currency, "currency");
        // UNNECESSARY throws on 1.005 EUR; the fixed scale makes 1.0 equal 1.00, which BigDecimal alone does not
        amount = amount.setScale(currency.getDefaultFractionDigits(), RoundingMode.UNNECESSARY);
    }

    public static Money of(String amount, String currency) {
        return new Money(new BigDecimal(amount), Currency.getInstance(currency));
    }

    public static Money zero(Currency currency) {
        return new Money(BigDecimal.ZERO, currency);
    }

    /** The exact figure rounded half-up to the minor unit. */
    public static Money rounded(BigDecimal exact, Currency currency) {
        return new Money(exact.setScale(currency.getDefaultFractionDigits(), RoundingMode.HALF_UP), currency);
    }

    public Money plus(Money other) {
        return new Money(amount.add(other.in(currency)), currency);
    }

    public Money minus(Money other) {
        return new Money(amount.subtract(other.in(currency)), currency);
    }

    public Money negated() {
        return new Money(amount.negate(), currency);
    }

    public Money min(Money other) {
        return compareTo(other) <= 0 ? this : other;
    }

    public Money max(Money other) {
        return compareTo(other) >= 0 ? this : other;
    }

    /**
     * The part of this whole that is due for {@code cumulative} of {@code of}, less what was taken already. Sliced in
     * any pieces, the slices of a whole add up to the whole, to the cent (section 1, slices). Where something taken was
     * put back, more may have been taken than is due so far: then there is nothing in this slice, and the next makes up
     * for it.
     */
    public Money slice(Quantity cumulative, Quantity of, Money alreadyTaken) {
        return slice(cumulative.value(), of.value(), alreadyTaken);
    }

    /** The part that goes with an amount of another whole. */
    public Money slice(Money cumulative, Money of, Money alreadyTaken) {
        return slice(cumulative.amount, of.in(currency), alreadyTaken);
    }

    private Money slice(BigDecimal cumulative, BigDecimal of, Money alreadyTaken) {
        if (of.signum() == 0) {
            throw new IllegalArgumentException("a slice of nothing: " + cumulative + " of " + of);
        }
        var due = amount.multiply(cumulative).divide(of, currency.getDefaultFractionDigits(), RoundingMode.HALF_UP);
        return new Money(due, currency).minus(alreadyTaken).max(zero(currency));
    }

    public boolean isZero() {
        return amount.signum() == 0;
    }

    public boolean isPositive() {
        return amount.signum() > 0;
    }

    public boolean isNegative() {
        return amount.signum() < 0;
    }

    private BigDecimal in(Currency expected) {
        if (!currency.equals(expected)) {
            throw new IllegalArgumentException("amounts in " + expected + " and " + currency + " do not add up");
        }
        return amount;
    }

    @Override
    public int compareTo(Money other) {
        return amount.compareTo(other.in(currency));
    }

    /** As it stands in sentences: {@code EUR 1,862.29}. */
    @Override
    public String toString() {
        return currency.getCurrencyCode() + " " + Figures.grouped(amount);
    }
}
