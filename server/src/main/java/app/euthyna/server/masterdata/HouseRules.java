package app.euthyna.server.masterdata;

import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.OrderKind;
import java.util.EnumSet;
import java.util.Set;

/**
 * What the house has laid down for all customers: how checks weigh, their figures, its PO policy and where it looks for numbers,
 * what it asks of every order, which kinds of order may be billed before their goods leave, and how things are undone.
 */
public record HouseRules(CheckPolicy checks, PoPolicy po, PoPlaces places, EntryRules entry, Set<OrderKind> billedAhead, UnwindRules unwind) {

    private static final Set<OrderKind> AHEAD = EnumSet.of(OrderKind.STANDARD, OrderKind.DIRECT, OrderKind.CALL_OFF);

    /** Rules that were kept before kinds could be billed ahead, or before things could be undone by rule, say nothing of it. */
    public HouseRules {
        billedAhead = Set.copyOf(billedAhead == null ? AHEAD : billedAhead);
        unwind = unwind == null ? UnwindRules.STANDARD : unwind;
    }

    /** Of a house that has laid down nothing. */
    public static final HouseRules STANDARD = new HouseRules(CheckPolicy.STANDARD, PoPolicy.STANDARD, PoPlaces.EVERYWHERE, EntryRules.NONE, AHEAD, UnwindRules.STANDARD);
}
