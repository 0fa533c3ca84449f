package app.euthyna.core.check;

import app.euthyna.core.order.OrderKind;
import java.util.EnumMap;
import java.util.Map;

/**
 * Severity of each check per order kind, and the figures that checks hold orders against. Duplicate PO is weighed by
 * the customer's PO policy instead.
 *
 * @param severities those that differ from the preset
 */
public record CheckPolicy(Map<Check, Map<OrderKind, Severity>> severities, CheckFigures figures) {

    public CheckPolicy {
        var copy = new EnumMap<Check, Map<OrderKind, Severity>>(Check.class);
        severities.forEach((check, kinds) -> copy.put(check, Map.copyOf(kinds)));
        severities = Map.copyOf(copy);
    }

    /** The presets alone, and no figure set. */
    public static final CheckPolicy STANDARD = new CheckPolicy(Map.of(), CheckFigures.NONE);

    public Severity of(Check check, OrderKind kind) {
        return severities.getOrDefault(check, Map.of()).getOrDefault(kind, preset(check, kind));
    }

    /**
     * What a check does unless the company says otherwise: what asks for care only flags an order, and goods at no
     * charge have no floor price, margin or usual value.
     */
    public static Severity preset(Check check, OrderKind kind) {
        return switch (check) {
            case BLOCKED, CREDIT_LIMIT, OVERDUE, MISSING_PO, DUPLICATE_PO, ZERO_PRICE, LICENCE, QUOTA -> Severity.STOP;
            case PRICE_FLOOR -> kind.atNoCharge() ? Severity.OFF : Severity.STOP;
            case MARGIN, UNUSUAL -> kind.atNoCharge() ? Severity.OFF : Severity.CAUTION;
            case UNRESERVED, DATES -> Severity.CAUTION;
        };
    }
}
