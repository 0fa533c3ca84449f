package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.Right;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What billing does as one of many. */
@Component
class BillingWork implements BatchWork {

    private final BillingService billing;
    private final BilledQueries queries;

    BillingWork(BillingService billing, BilledQueries queries) {
        this.billing = billing;
        this.queries = queries;
    }

    /** Orders that are to stand on one invoice. */
    record Asked(List<String> orders, String text) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.BILLING;
    }

    /** Of what left, each order that has something to bill is billed on an invoice of its own. */
    @Override
    public Optional<Following> following() {
        return Optional.of(new Following(
                Batches.Kind.DEPARTURE,
                Right.BILL,
                numbers -> queries.toBill(Many.names(numbers)).stream()
                        .map(order -> new Batches.Asked(DocumentKind.ORDER, order, new Asked(List.of(order), "")))
                        .toList()));
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var asked = Records.read(request, Asked.class);
        return new Done(
                new DocumentRef(
                        DocumentKind.INVOICE, billing.bill(context, asked.orders(), List.of(), asked.text(), false)),
                "");
    }
}
