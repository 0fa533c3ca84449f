package app.euthyna.core.returns;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Optional;

/**
 * How much of what left came back in the same time.
 *
 * @param back came back and was kept, in the same unit as {@code left}: a quantity, or value at cost
 */
public record ReturnRate(BigDecimal back, BigDecimal left) {

    /** Per cent, with one decimal; empty where nothing left. May be above 100: what comes back left earlier. */
    public Optional<BigDecimal> percent() {
        return left.signum() <= 0
                ? Optional.empty()
                : Optional.of(back.movePointRight(2).divide(left, 1, RoundingMode.HALF_UP));
    }
}
