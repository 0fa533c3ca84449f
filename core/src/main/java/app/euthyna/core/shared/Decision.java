package app.euthyna.core.shared;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** What a rule answers: a result, or every reason against it, the weightiest first. */
public record Decision<T>(Optional<T> result, List<Refusal> refusals) {

    public Decision {
        refusals = List.copyOf(refusals);
        if (result.isPresent() != refusals.isEmpty()) {
            throw new IllegalArgumentException(
                    "a decision is either a result or refusals: " + result + ", " + refusals);
        }
    }

    public static <T> Decision<T> of(T result) {
        return new Decision<>(Optional.of(result), List.of());
    }

    public static <T> Decision<T> refused(Refusal... refusals) {
        return new Decision<>(Optional.empty(), List.of(refusals));
    }

    public static <T> Decision<T> refused(List<? extends Refusal> refusals) {
        return new Decision<>(Optional.empty(), List.copyOf(refusals));
    }

    public boolean isRefused() {
        return !refusals.isEmpty();
    }

    public <R> Decision<R> map(Function<T, R> then) {
        return isRefused() ? refused(refusals) : of(then.apply(result.orElseThrow()));
    }

    /** The result; only to be asked where nothing was refused. */
    public T get() {
        return result.orElseThrow(() -> new IllegalStateException("refused: " + refusals));
    }
}
