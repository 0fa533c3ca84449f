package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Records;
import java.util.List;
import org.springframework.stereotype.Component;

/** What billing does as one of many. */
@Component
class BillingWork implements BatchWork {

    private final BillingService billing;

    BillingWork(BillingService billing) {
        this.billing = billing;
    }

    /** Orders that are to stand on one invoice. */
    record Asked(List<String> orders, String text) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.BILLING;
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
