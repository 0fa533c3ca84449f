package app.euthyna.server.masterdata;

import app.euthyna.core.billing.EarlyPaymentTerms;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.order.VatTreatment;
import java.util.Map;
import java.util.Optional;

/**
 * A customer as documents and decisions see it.
 *
 * @param rules what holds for it under the rules of the company that are in force
 * @param ownPo its own PO policy
 * @param ownOverdue its own agreement on what counts as overdue
 * @param earlyPayment its discount for paying early; empty where none is agreed
 * @param licences number by class of regulated goods
 */
public record Customer(
        String code,
        String name,
        String town,
        String customerClass,
        String region,
        int termsDays,
        Optional<EarlyPaymentTerms> earlyPayment,
        VatTreatment vatTreatment,
        CustomerRules rules,
        Optional<PoPolicy> ownPo,
        Optional<CustomerRules.Overdue> ownOverdue,
        Map<String, String> licences) {

    Customer withRules(CustomerRules changed) {
        return new Customer(
                code,
                name,
                town,
                customerClass,
                region,
                termsDays,
                earlyPayment,
                vatTreatment,
                changed,
                ownPo,
                ownOverdue,
                licences);
    }

    /** What would hold for it under other rules of the company. */
    public CustomerRules under(CompanyRules house) {
        return new CustomerRules(
                code,
                rules.creditLimit(),
                ownPo.orElse(house.po()),
                ownOverdue.or(() -> house.checks().figures().overdue()),
                rules.block());
    }
}
