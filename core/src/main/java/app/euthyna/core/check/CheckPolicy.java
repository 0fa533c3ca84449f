package app.euthyna.core.check;

import app.euthyna.core.order.OrderKind;
import java.util.Map;

/** Severity of each check per order kind. Duplicate PO is weighed by the customer's own policy instead. */
public record CheckPolicy(Map<Check, Map<OrderKind, Severity>> severities) {

    /** Every check stops every kind of order; goods that are short only flag it, and goods at no charge have no floor price. */
    public static final CheckPolicy STANDARD = new CheckPolicy(Map.of());

    public Severity of(Check check, OrderKind kind) {
        var preset = check == Check.UNRESERVED ? Severity.CAUTION : check == Check.PRICE_FLOOR && kind.atNoCharge() ? Severity.OFF : Severity.STOP;
        return severities.getOrDefault(check, Map.of()).getOrDefault(kind, preset);
    }
}
