package app.euthyna.core.shared;

import java.util.Optional;

/**
 * Something that a document in its state is there for.
 *
 * @param refusal why it can't be done although the document is there for it; empty where it can
 */
public record Offered<A extends Enum<A>>(A action, Optional<Refusal> refusal) {

    /** What nothing speaks against. */
    public static <A extends Enum<A>> Offered<A> of(A action) {
        return new Offered<>(action, Optional.empty());
    }

    /** What the rule for doing it says, asked before it is done. */
    public static <A extends Enum<A>> Offered<A> of(A action, Decision<?> decision) {
        return new Offered<>(
                action, decision.isRefused() ? Optional.of(decision.refusals().get(0)) : Optional.empty());
    }
}
