package app.euthyna.core.order;

import java.util.Map;

/**
 * What an order says of itself beside its lines and dates. It flows on to the dispatches and invoices of the order.
 *
 * @param externalReference a number that the order has elsewhere, or empty
 * @param revenueUnit the part of the company that the revenue counts for, by its code, or empty
 * @param fields values of the company's own fields by their code, as {@link CompanyField} writes them
 */
public record Details(String externalReference, String revenueUnit, ShipTo shipTo, Map<String, String> fields) {

    public static final Details NONE = new Details("", "", ShipTo.CUSTOMER, Map.of());

    public Details {
        fields = Map.copyOf(fields);
    }
}
