package app.euthyna.server.unwind;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Records;
import org.springframework.stereotype.Component;

/** Takes a document back as one of many. */
@Component
class UnwindingWork implements BatchWork {

    private final UnwindService unwind;

    UnwindingWork(UnwindService unwind) {
        this.unwind = unwind;
    }

    /** A document as it was looked at. */
    record Request(DocumentKind kind, String number, String intent, String fingerprint, String reasonCode) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.UNWINDING;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var asked = Records.read(request, Request.class);
        var done = unwind.carryOut(
                context,
                AskedUnwind.of(asked.kind(), asked.number(), asked.intent()),
                asked.reasonCode(),
                asked.fingerprint());
        return new Done(
                new DocumentRef(asked.kind(), asked.number()),
                "%s taken back".formatted(done.plan().value())
                        + done.plan()
                                .waitsAt()
                                .map(step -> "; waits: " + step.sentence())
                                .orElse(""));
    }
}
