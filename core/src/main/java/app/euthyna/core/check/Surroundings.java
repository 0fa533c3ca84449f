package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;

/**
 * The world as the checks of one order see it on a business date.
 *
 * @param position without the order itself
 * @param poUses other orders of the customer whose PO may be met again: of the same normal or folded form, or of the same value;
 * cancelled and declined ones left out
 * @param dueInvoices open invoices that are past due, oldest first
 * @param regulated class by item, for regulated items only
 * @param floors least unit price after discount, by item; items without one are left out
 * @param licences by class
 * @param free unreserved stock by item at the order's site
 */
public record Surroundings(LocalDate businessDate, CustomerRules customer, CustomerPosition position, List<PoUse> poUses,
        List<DueInvoice> dueInvoices, Map<String, BigDecimal> floors, Map<String, String> regulated, Map<String, LicenceFact> licences, Map<String, Quantity> free, CheckPolicy policy) {
    public Surroundings {
        poUses = List.copyOf(poUses);
        dueInvoices = List.copyOf(dueInvoices);
        floors = Map.copyOf(floors);
        regulated = Map.copyOf(regulated);
        licences = Map.copyOf(licences);
        free = Map.copyOf(free);
    }

    /** An invoice with what it has open and the day that it was due. */
    public record DueInvoice(String number, LocalDate dueOn, Money open) {
    }
}
