package app.euthyna.server.masterdata;

import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.order.VatTreatment;
import java.util.Map;

/**
 * A customer as documents and decisions see it.
 *
 * @param licences number by class of regulated goods
 */
public record Customer(String code, String name, String town, String customerClass, int termsDays, VatTreatment vatTreatment,
        CustomerRules rules, Map<String, String> licences) {
}
