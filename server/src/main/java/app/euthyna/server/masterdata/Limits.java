package app.euthyna.server.masterdata;

import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.Collections;
import java.util.EnumMap;
import java.util.Map;

/**
 * Up to which amount each role acts on its own word, in the company's currency; a role that is not named has no limit
 * (section 15).
 *
 * @param refund of money that goes back to a customer, in 30 days together
 * @param goodsForNothing of an order's goods at no charge, at list price
 * @param badDebt written off for a customer, in 30 days together
 */
public record Limits(
        Map<Role, BigDecimal> refund, Map<Role, BigDecimal> goodsForNothing, Map<Role, BigDecimal> badDebt) {

    public static final Limits NONE = new Limits(Map.of(), Map.of(), Map.of());

    /** Of a company that begins. */
    public static final Limits OF_A_NEW_COMPANY = new Limits(
            Map.of(Role.RECEIVABLES, new BigDecimal(500), Role.CONTROLLER, new BigDecimal(5000)),
            Map.of(Role.CLERK, new BigDecimal(100), Role.CONTROLLER, new BigDecimal(1000)),
            Map.of(Role.CONTROLLER, new BigDecimal(1000)));

    public Limits {
        refund = sorted(refund);
        goodsForNothing = sorted(goodsForNothing);
        // rules that were kept before there were write-offs say nothing of them
        badDebt = sorted(badDebt == null ? Map.of() : badDebt);
    }

    private static Map<Role, BigDecimal> sorted(Map<Role, BigDecimal> limits) {
        var sorted = new EnumMap<Role, BigDecimal>(Role.class);
        sorted.putAll(limits);
        return Collections.unmodifiableMap(sorted);
    }

    /** Rules that were kept before limits went by role had one for all. */
    static Limits ofOne(BigDecimal refundLimit) {
        return refundLimit == null
                ? NONE
                : new Limits(Map.of(Role.RECEIVABLES, refundLimit, Role.CONTROLLER, refundLimit), Map.of(), Map.of());
    }
}
