package app.euthyna.core.check;

import java.time.LocalDate;

/**
 * Where the company looks for a PO number that was used before (section 5). A document counts when one of the places
 * that it stands in is looked at.
 *
 * @param openOrders orders of which something is still to be shipped or billed
 * @param closedOrders orders that have come to their end, though not cancelled or declined
 * @param closedMonths how far back closed orders are looked through, by the day they were ordered
 * @param unpostedInvoices orders with something shipped or done that waits to be billed
 * @param postedInvoices orders that an invoice bills
 * @param importedHistory invoices from before the company worked with this application
 */
public record PoPlaces(
        boolean openOrders,
        boolean closedOrders,
        int closedMonths,
        boolean unpostedInvoices,
        boolean postedInvoices,
        boolean importedHistory) {

    public static final PoPlaces EVERYWHERE = new PoPlaces(true, true, 24, true, true, true);

    /** Whether a use counts on a business date. */
    public boolean include(PoUse use, LocalDate on) {
        return switch (use.place()) {
            case OPEN_ORDER ->
                openOrders
                        || (unpostedInvoices && use.toBill())
                        || (postedInvoices && !use.invoices().isEmpty());
            case CLOSED_ORDER ->
                (closedOrders && !use.on().isBefore(on.minusMonths(closedMonths)))
                        || (postedInvoices && !use.invoices().isEmpty());
            case IMPORTED -> importedHistory;
        };
    }
}
