package app.euthyna.core.ledger;

import java.math.BigDecimal;

/**
 * What was debited and what was credited, each a sum of its own and not negative for what was posted.
 *
 * @param debit and {@code credit}, in the company's currency
 */
public record Sides(BigDecimal debit, BigDecimal credit) {
    public static final Sides NONE = new Sides(BigDecimal.ZERO, BigDecimal.ZERO);

    /** Of one line: an amount is debited, a negative one credited. */
    public static Sides of(BigDecimal amount) {
        return new Sides(amount.max(BigDecimal.ZERO), amount.negate().max(BigDecimal.ZERO));
    }

    public Sides plus(Sides other) {
        return new Sides(debit.add(other.debit), credit.add(other.credit));
    }

    /** Debits less credits. */
    public BigDecimal balance() {
        return debit.subtract(credit);
    }

    /** Whether both are the same figures, however many decimals they are kept with. */
    public boolean agreesWith(Sides other) {
        return debit.compareTo(other.debit) == 0 && credit.compareTo(other.credit) == 0;
    }
}
