package app.euthyna.server.masterdata;

import app.euthyna.core.flow.OrderFigures;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;

/**
 * An item as documents and decisions see it.
 *
 * @param price list price per unit
 * @param floor the price after discount should not fall below it
 * @param minStock told when stock falls under it
 * @param leadDays the company needs so many days for it
 * @param regulated class of licence it needs, or empty
 * @param measures what a unit weighs and fills
 */
public record Item(
        String code,
        String name,
        LineKind kind,
        String itemClass,
        String unit,
        BigDecimal price,
        BigDecimal floor,
        Vat vat,
        BigDecimal minStock,
        int leadDays,
        String regulated,
        OrderFigures.Measures measures) {}
