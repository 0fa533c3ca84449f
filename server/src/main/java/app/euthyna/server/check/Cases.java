package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckContext;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.CustomerPosition;
import app.euthyna.core.check.Finding;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.flow.OpenOrderSink;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/** The case of an order that is decided on: its chain, what was found, and what the checks look at. */
@Component
class Cases {

    private final ChainReader chains;
    private final FindingStore findings;
    private final CheckContextReader checkContexts;
    private final OpenOrderSink openOrders;
    private final CustomerFacts customerFacts;
    private final GoodsFacts goodsFacts;

    Cases(
            ChainReader chains,
            FindingStore findings,
            CheckContextReader checkContexts,
            OpenOrderSink openOrders,
            CustomerFacts customerFacts,
            GoodsFacts goodsFacts) {
        this.goodsFacts = goodsFacts;
        this.customerFacts = customerFacts;
        this.chains = chains;
        this.findings = findings;
        this.checkContexts = checkContexts;
        this.openOrders = openOrders;
    }

    Chain chain(String order) {
        return chains.chain(order);
    }

    Map<String, Chain> chains(Collection<String> orders) {
        return chains.chains(orders);
    }

    List<Finding> findings(String order) {
        return findings.of(order);
    }

    CheckContext context(Order order, LocalDate on) {
        return checkContexts.of(order, on);
    }

    /** No more of the world than some checks look at. */
    CheckContext context(Order order, LocalDate on, Set<Check> asked) {
        return checkContexts.of(order, on, asked);
    }

    /** The findings as a run of the checks leaves them now; nothing is kept. */
    List<Finding> again(Chain chain, LocalDate on) {
        return Checks.again(
                chain,
                checkContexts.of(chain.order(), on),
                findings.of(chain.order().number()));
    }

    /** Keeps what was found. */
    void keep(String order, List<Finding> found) {
        findings.save(order, found);
        openOrders.touch(order);
    }

    /** What later questions see of the orders that were touched. */
    void bringUpToDate() {
        openOrders.bringUpToDate();
    }

    /** A customer's position with all its orders. */
    CustomerPosition position(String customer) {
        return customerFacts.position(customer, "");
    }

    /** Free stock for an order's lines, by {@link Order#place}. */
    Map<String, Quantity> free(Order order) {
        return goodsFacts.free(order);
    }

    /** What other stores than one have free of an item. */
    Map<String, Quantity> freeElsewhere(String item, String site) {
        return goodsFacts.freeElsewhere(item, site);
    }
}
