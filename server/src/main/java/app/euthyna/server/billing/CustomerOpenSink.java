package app.euthyna.server.billing;

import app.euthyna.core.flow.Effect;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.TransactionCache;
import java.util.List;
import java.util.TreeSet;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Keeps what customers have open. Customers whose invoices a command touches are noted, and their rows written once, at
 * its end: it has posted by then, and who posts waits for the ledger's head, so that no two write a row at once.
 */
@Component
@Order(62)
class CustomerOpenSink implements EffectSink {

    private final InvoiceQueries queries;
    private final TransactionCache<Long, Boolean> touched = TransactionCache.toTheEnd();

    CustomerOpenSink(InvoiceQueries queries) {
        this.queries = queries;
    }

    /** Notes that something of an invoice was opened or settled. */
    void touch(InvoiceEntity invoice) {
        touched.put(invoice.customerId, true);
    }

    @Override
    public void settle(CommandContext context, List<Effect> all) {
        new TreeSet<>(touched.takeAll().keySet()).forEach(this::write);
    }

    private void write(long customerId) {
        var open = queries.openOfCustomer(customerId);
        if (open.invoices() == 0) {
            queries.owesNothing(customerId);
            return;
        }
        var row = new CustomerOpenEntity();
        row.id = customerId;
        row.invoices = open.invoices();
        row.still = open.still();
        row.oldestDueOn = open.oldestDueOn();
        queries.session().upsert(row);
    }
}
