package app.euthyna.core.shared;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * Combinations of duties that one person should not hold (section 15). Segregation of duties is common practice; where
 * a role holds a combination by its nature, four eyes stand between the two on each document.
 */
public final class Duties {

    private enum Duty {
        WRITE_ORDERS,
        DECIDE_ON_ORDERS,
        RECORD_MONEY,
        REFUND_MONEY,
        KEEP_USERS
    }

    private Duties() {}

    private static Set<Duty> of(Role role) {
        return switch (role) {
            case CLERK -> EnumSet.of(Duty.WRITE_ORDERS);
            case RECEIVABLES -> EnumSet.of(Duty.RECORD_MONEY, Duty.REFUND_MONEY);
            case CONTROLLER, LEAD ->
                EnumSet.of(Duty.WRITE_ORDERS, Duty.DECIDE_ON_ORDERS, Duty.RECORD_MONEY, Duty.REFUND_MONEY);
            case ADMIN -> EnumSet.of(Duty.KEEP_USERS);
            case WAREHOUSE, AUDITOR -> EnumSet.noneOf(Duty.class);
        };
    }

    /**
     * The combinations that somebody holds.
     *
     * @param roles their own, and those of the people whom they stand in for
     */
    public static List<String> together(Set<Role> roles) {
        var duties = EnumSet.noneOf(Duty.class);
        roles.forEach(role -> duties.addAll(of(role)));
        var told = new ArrayList<String>();
        if (duties.containsAll(EnumSet.of(Duty.WRITE_ORDERS, Duty.DECIDE_ON_ORDERS))) {
            told.add("writes orders and decides on orders");
        }
        if (duties.containsAll(EnumSet.of(Duty.RECORD_MONEY, Duty.REFUND_MONEY))) {
            told.add("records money and refunds money");
        }
        if (duties.contains(Duty.KEEP_USERS) && duties.size() > 1) {
            told.add("keeps users and works with documents");
        }
        return told;
    }
}
