package app.euthyna.core.check;

import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/**
 * The world as the checks of one order see it on a business date.
 *
 * @param position without the order itself
 * @param poUses other orders of the customer whose PO may be met again: of the same normal or folded form, or of the same value;
 * cancelled and declined ones left out
 * @param regulated class by item, for regulated items only
 * @param licences by class
 * @param free unreserved stock by item at the order's site
 */
public record Surroundings(LocalDate businessDate, CustomerRules customer, CustomerPosition position, List<PoUse> poUses,
        Map<String, String> regulated, Map<String, LicenceFact> licences, Map<String, Quantity> free, CheckPolicy policy) {
    public Surroundings {
        poUses = List.copyOf(poUses);
        regulated = Map.copyOf(regulated);
        licences = Map.copyOf(licences);
        free = Map.copyOf(free);
    }
}
