package app.euthyna.server.batch;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Right;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** Carries out the entries of one kind of batch. */
public interface BatchWork {

    Batches.Kind kind();

    /**
     * Does what one entry asks for, in the transaction that keeps its outcome.
     *
     * @param request as it was asked, in JSON
     */
    Done carryOut(CommandContext context, String request);

    /** What is done to what an earlier batch came to. */
    default Optional<Following> following() {
        return Optional.empty();
    }

    /**
     * How work goes on with the documents that other work came to.
     *
     * @param after the work before
     * @param right whose it is
     * @param asked what is asked for, of the numbers of those documents in their sequence; of those it can't be done to
     *     any more, nothing
     */
    record Following(Batches.Kind after, Right right, Function<List<String>, List<Batches.Asked>> asked) {}

    /**
     * What an entry came to.
     *
     * @param document that was made or moved; null where there is none
     */
    record Done(DocumentRef document, String sentence) {}
}
