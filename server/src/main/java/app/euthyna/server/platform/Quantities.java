package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;

/** Quantities on their way in. */
public final class Quantities {

    private Quantities() {}

    /** A quantity as it came with a request; refused where it has more decimals than are kept. */
    public static Quantity given(String field, BigDecimal value) {
        if (value.stripTrailingZeros().scale() > Quantity.DECIMALS) {
            throw new RefusedException(CommonRefusal.Incomplete.of(field, "a quantity with at most 3 decimals"));
        }
        return new Quantity(value);
    }
}
