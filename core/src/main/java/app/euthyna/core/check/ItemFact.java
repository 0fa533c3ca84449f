package app.euthyna.core.check;

import java.math.BigDecimal;
import java.util.Optional;

/**
 * What the checks ask of an item at the order's store.
 *
 * @param listPrice per unit
 * @param floor least unit price after discount
 * @param unitCost moving average; empty where nothing is on the shelf
 * @param leadDays the company needs so many days for it
 * @param regulated class of licence it needs
 */
public record ItemFact(
        BigDecimal listPrice,
        Optional<BigDecimal> floor,
        Optional<BigDecimal> unitCost,
        int leadDays,
        Optional<String> regulated) {

    public static final ItemFact PLAIN =
            new ItemFact(BigDecimal.ZERO, Optional.empty(), Optional.empty(), 0, Optional.empty());

    public ItemFact withFloor(BigDecimal least) {
        return new ItemFact(listPrice, Optional.of(least), unitCost, leadDays, regulated);
    }

    public ItemFact withUnitCost(BigDecimal cost) {
        return new ItemFact(listPrice, floor, Optional.of(cost), leadDays, regulated);
    }

    public ItemFact withLeadDays(int days) {
        return new ItemFact(listPrice, floor, unitCost, days, regulated);
    }

    public ItemFact withRegulated(String licenceClass) {
        return new ItemFact(listPrice, floor, unitCost, leadDays, Optional.of(licenceClass));
    }
}
