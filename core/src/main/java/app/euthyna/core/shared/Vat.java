package app.euthyna.core.shared;

import java.math.BigDecimal;
import java.math.RoundingMode;

/**
 * A VAT category with its rate in per cent. Categories carry the codes of EN 16931 (UNTDID 5305): S standard, Z zero
 * rated, E exempt, AE reverse charge, G export outside the Union; only S has a rate above zero.
 */
public record Vat(Category category, BigDecimal ratePercent) implements Comparable<Vat> {

    /** EN 16931 code of a VAT category. */
    public enum Category {
        S,
        Z,
        E,
        AE,
        G
    }

    public Vat {
        ratePercent = ratePercent.setScale(2, RoundingMode.UNNECESSARY);
        if (ratePercent.signum() < 0 || ratePercent.compareTo(BigDecimal.valueOf(100)) > 0) {
            throw new IllegalArgumentException("a VAT rate outside 0 to 100 per cent: " + ratePercent);
        }
        if (category != Category.S && ratePercent.signum() != 0) {
            throw new IllegalArgumentException(
                    "VAT category " + category + " has no rate, but " + ratePercent + " was given");
        }
    }

    public static Vat of(Category category, String ratePercent) {
        return new Vat(category, new BigDecimal(ratePercent));
    }

    @Override
    public int compareTo(Vat other) {
        var byCategory = category.compareTo(other.category);
        return byCategory != 0 ? byCategory : ratePercent.compareTo(other.ratePercent);
    }
}
