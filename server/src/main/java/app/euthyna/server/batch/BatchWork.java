package app.euthyna.server.batch;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.platform.CommandContext;

/** Carries out the entries of one kind of batch. */
public interface BatchWork {

    Batches.Kind kind();

    /**
     * Does what one entry asks for, in the transaction that keeps its outcome.
     *
     * @param request as it was asked, in JSON
     */
    Done carryOut(CommandContext context, String request);

    /**
     * What an entry came to.
     *
     * @param document that was made or moved; null where there is none
     */
    record Done(DocumentRef document, String sentence) {}
}
