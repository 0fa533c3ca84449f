package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckContext;
import app.euthyna.core.check.PastOrders;
import app.euthyna.core.order.Order;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Gathers what the checks of an order look at. */
@Component
class CheckContextReader {

    private final MasterData masterData;
    private final CompanyRulesStore rules;
    private final CustomerFacts customerFacts;
    private final GoodsFacts goodsFacts;

    CheckContextReader(
            MasterData masterData, CompanyRulesStore rules, CustomerFacts customerFacts, GoodsFacts goodsFacts) {
        this.masterData = masterData;
        this.rules = rules;
        this.customerFacts = customerFacts;
        this.goodsFacts = goodsFacts;
    }

    CheckContext of(Order order, LocalDate on) {
        return of(order, on, rules.inForce());
    }

    /** The world as it would be under other rules of the company. */
    CheckContext of(Order order, LocalDate on, CompanyRules under) {
        return of(order, on, under, EnumSet.allOf(Check.class));
    }

    /** No more of the world than some checks look at. */
    CheckContext of(Order order, LocalDate on, Set<Check> asked) {
        return of(order, on, rules.inForce(), asked);
    }

    private CheckContext of(Order order, LocalDate on, CompanyRules under, Set<Check> asked) {
        var customer = masterData.customer(order.customer());
        var goods = goodsFacts.of(order);
        var agreed = customer.under(under);
        return new CheckContext(
                on,
                agreed,
                asked.contains(Check.CREDIT_LIMIT)
                        ? customerFacts.position(order.customer(), order.number())
                        : customerFacts.nothing(),
                asked.contains(Check.DUPLICATE_PO)
                        ? customerFacts.poUses(
                                order, on, under.places(), agreed.po().ceiling().isPresent())
                        : List.of(),
                asked.contains(Check.OVERDUE)
                        ? customerFacts.dueInvoices(
                                agreed, on, under.receivables().disputesAside())
                        : List.of(),
                goods.facts(),
                asked.contains(Check.LICENCE) ? goodsFacts.licences(goods, customer, on) : Map.of(),
                goodsFacts.free(order, goods.shelves()),
                asked.contains(Check.QUOTA) ? goodsFacts.quotas(order, customer, on) : List.of(),
                asked.contains(Check.UNUSUAL)
                        ? customerFacts.past(order, goods.known().keySet())
                        : PastOrders.NONE,
                asked.contains(Check.PRICE_FLOOR) ? customerFacts.roleOf(order.author()) : Optional.empty(),
                under.checks());
    }
}
