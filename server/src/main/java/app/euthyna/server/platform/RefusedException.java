package app.euthyna.server.platform;

import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Refusal;
import java.util.List;
import java.util.Optional;

/** Carries the refusals of a command out of its transaction, which rolls back. */
public final class RefusedException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    private final transient List<Refusal> refusals;

    public RefusedException(List<? extends Refusal> refusals) {
        super(refusals.get(0).sentence(), null, false, false);
        this.refusals = List.copyOf(refusals);
    }

    public RefusedException(Refusal refusal) {
        this(List.of(refusal));
    }

    /** The decision's result; throws when it was refused. */
    public static <T> T orThrow(Decision<T> decision) {
        if (decision.isRefused()) {
            throw new RefusedException(decision.refusals());
        }
        return decision.get();
    }

    /** Throws where something speaks against it. */
    public static void where(Optional<? extends Refusal> refusal) {
        refusal.ifPresent(why -> {
            throw new RefusedException(why);
        });
    }

    /** Throws where anything speaks against it. */
    public static void where(List<? extends Refusal> refusals) {
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
    }

    public List<Refusal> refusals() {
        return refusals;
    }
}
