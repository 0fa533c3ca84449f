package app.euthyna.server.masterdata;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;

/**
 * An item as documents and decisions see it.
 *
 * @param price list price per unit
 * @param regulated class of licence it needs, or empty
 */
public record Item(String code, String name, LineKind kind, String itemClass, String unit, BigDecimal price, Vat vat,
        String regulated) {
}
