package app.euthyna.core.order;

import java.util.Map;

/**
 * What an order says of itself beside its lines and dates. It flows on to the dispatches and invoices of the order.
 *
 * @param externalReference a number that the order has elsewhere, or empty
 * @param revenueUnit the part of the company that the revenue counts for, by its code, or empty
 * @param fields values of the company's own fields by their code, as {@link CompanyField} writes them
 * @param replaces number of the return or dispatch that a replacement stands for, or empty
 */
public record Details(
        String externalReference, String revenueUnit, ShipTo shipTo, Map<String, String> fields, String replaces) {

    public static final Details NONE = new Details("", "", ShipTo.CUSTOMER, Map.of(), "");

    /** What was kept before replacements named what they stand for says nothing of it. */
    public Details {
        replaces = replaces == null ? "" : replaces;
        fields = Map.copyOf(fields);
    }
}
