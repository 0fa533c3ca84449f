package app.euthyna.server.unwind;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Records;
import org.springframework.stereotype.Component;

/** Cancels the rest of an order as one of many. */
@Component
class CancellingWork implements BatchWork {

    private final UnwindService unwind;

    CancellingWork(UnwindService unwind) {
        this.unwind = unwind;
    }

    /** An order as it was looked at. */
    record Request(String order, String fingerprint, String reasonCode) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.CANCELLING;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var asked = Records.read(request, Request.class);
        var done = unwind.carryOut(
                context,
                AskedUnwind.of(DocumentKind.ORDER, asked.order(), "cancel-rest"),
                asked.reasonCode(),
                asked.fingerprint());
        return new Done(
                DocumentRef.order(asked.order()),
                "%s net cancelled".formatted(done.plan().value()));
    }
}
