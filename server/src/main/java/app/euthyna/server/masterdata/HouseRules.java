package app.euthyna.server.masterdata;

import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.order.EntryRules;

/**
 * What the house has laid down for all customers: how checks weigh, their figures, its PO policy and where it looks for numbers,
 * and what it asks of every order.
 */
public record HouseRules(CheckPolicy checks, PoPolicy po, PoPlaces places, EntryRules entry) {

    /** Of a house that has laid down nothing. */
    public static final HouseRules STANDARD = new HouseRules(CheckPolicy.STANDARD, PoPolicy.STANDARD, PoPlaces.EVERYWHERE, EntryRules.NONE);
}
