package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.RefusedException;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Billing orders and taking in money. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class BillingService {

    private final ChainReader chains;
    private final MasterData masterData;
    private final Locks locks;
    private final EffectWriter writer;
    private final CompanyRulesStore rules;

    BillingService(
            ChainReader chains, MasterData masterData, Locks locks, EffectWriter writer, CompanyRulesStore rules) {
        this.rules = rules;
        this.chains = chains;
        this.masterData = masterData;
        this.locks = locks;
        this.writer = writer;
    }

    /**
     * Bills orders of one customer on one invoice and gives it its number.
     *
     * @param text above the lines; may be empty
     * @param ahead goods may be billed that have not left
     */
    public String bill(CommandContext context, List<String> orders, List<Share> shares, String text, boolean ahead) {
        if (orders.isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("orders", "at least one order"));
        }
        locks.customerAndOrder(orders.get(0));
        locks.orders(orders);
        var found = chains.chains(orders);
        for (var order : orders) {
            if (!found.containsKey(order)) {
                throw new RefusedException(new CommonRefusal.NotFound("order", order));
            }
        }
        var customer = masterData.customer(found.get(orders.get(0)).order().customer());
        var invoiced = RefusedException.orThrow(Billing.bill(
                customer.code(),
                new ArrayList<>(found.values()),
                shares,
                new Billing.Terms(
                        writer.invoiceNumber(context),
                        context.date(),
                        customer.termsDays(),
                        text,
                        ahead,
                        customer.earlyPayment()),
                rules.inForce().billedAhead()));
        writer.write(context, List.of(invoiced));
        return invoiced.invoice().number();
    }
}
