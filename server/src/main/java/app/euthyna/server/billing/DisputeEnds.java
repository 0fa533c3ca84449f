package app.euthyna.server.billing;

import app.euthyna.core.billing.Disputing;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.History;
import java.util.Locale;
import org.springframework.stereotype.Component;

/** Ends disputes: by hand, or when nothing of their invoice is open any more. */
@Component
class DisputeEnds {

    private final DisputeQueries queries;
    private final History history;
    private final DocumentOrders orders;

    DisputeEnds(DisputeQueries queries, History history, DocumentOrders orders) {
        this.queries = queries;
        this.history = history;
        this.orders = orders;
    }

    /** Something was set against an invoice: where nothing is left open, what was disputed of it is settled. */
    void settled(CommandContext context, InvoiceEntity invoice, Disputing.State how) {
        if (invoice.disputed && invoice.openAmount.signum() == 0) {
            queries.openOf(invoice.id).ifPresent(dispute -> end(context, dispute, invoice, how, ""));
        }
    }

    void end(CommandContext context, DisputeEntity dispute, InvoiceEntity invoice, Disputing.State how, String why) {
        dispute.state = how;
        dispute.endedOn = context.date();
        dispute.endedBy = context.person().username();
        dispute.endedWhy = why;
        queries.session().update(dispute);
        invoice.disputed = false;
        queries.session().update(invoice);
        history.note(
                context,
                orders.of(DocumentKind.INVOICE, invoice.number),
                DocumentKind.INVOICE,
                invoice.number,
                "dispute-ended",
                "dispute settled: "
                        + (why.isEmpty() ? how.name().toLowerCase(Locale.ROOT).replace('_', ' ') : why));
    }
}
