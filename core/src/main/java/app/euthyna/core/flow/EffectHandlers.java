package app.euthyna.core.flow;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.function.BiFunction;

/**
 * What somebody makes of effects, by their type. What a table of them leaves out is found when it is made, not when the
 * effect comes: either it {@linkplain Table#complete() answers every effect}, or it says that the others do not concern
 * it.
 *
 * @param <A> who answers, for one command
 * @param <R> the answer
 */
public final class EffectHandlers<A, R> {

    private final Map<Class<?>, BiFunction<A, Effect, R>> handlers;
    private final R otherwise;

    private EffectHandlers(Map<Class<?>, BiFunction<A, Effect, R>> handlers, R otherwise) {
        this.handlers = Map.copyOf(handlers);
        this.otherwise = otherwise;
    }

    /** A table of answers; of {@code nothing} where there is nothing to answer. */
    public static <A, R> Table<A, R> answers(R nothing) {
        return new Table<>(nothing);
    }

    /** A table of deeds. */
    public static <A> Table<A, Boolean> deeds() {
        return new Table<>(false);
    }

    /** The answer to an effect. */
    public R of(A who, Effect effect) {
        var handler = handlers.get(effect.getClass());
        return handler == null ? otherwise : handler.apply(who, effect);
    }

    /** Handlers as they are named, one to a type. */
    public static final class Table<A, R> {

        private final Map<Class<?>, BiFunction<A, Effect, R>> handlers = new HashMap<>();
        private final R nothing;

        private Table(R nothing) {
            this.nothing = nothing;
        }

        /** What is answered to an effect of this type. */
        public <E extends Effect> Table<A, R> answer(Class<E> type, BiFunction<A, E, R> handler) {
            if (handlers.put(type, (who, effect) -> handler.apply(who, type.cast(effect))) != null) {
                throw new IllegalArgumentException("two handlers for " + type.getSimpleName());
            }
            return this;
        }

        /** What is done about an effect of this type. */
        public <E extends Effect> Table<A, R> on(Class<E> type, BiConsumer<A, E> handler) {
            return answer(type, (who, effect) -> {
                handler.accept(who, effect);
                return nothing;
            });
        }

        /** There is nothing to be done about these. */
        @SafeVarargs
        public final Table<A, R> nothing(Class<? extends Effect>... types) {
            for (var type : types) {
                answer(type, (who, effect) -> nothing);
            }
            return this;
        }

        /**
         * The table as it is, which must answer every effect there is.
         *
         * @throws IllegalStateException if it does not, naming those that it forgot
         */
        public EffectHandlers<A, R> complete() {
            var forgotten = new ArrayList<>(types(Effect.class));
            forgotten.removeAll(handlers.keySet());
            if (!forgotten.isEmpty()) {
                throw new IllegalStateException("effects without an answer: "
                        + forgotten.stream().map(Class::getSimpleName).sorted().toList());
            }
            return new EffectHandlers<>(handlers, nothing);
        }

        /** The table as it is: no other effect concerns whoever answers. */
        public EffectHandlers<A, R> othersDoNotConcernIt() {
            return new EffectHandlers<>(handlers, nothing);
        }
    }

    /** All effects there are: what the closed list permits. */
    static List<Class<?>> types(Class<?> of) {
        var found = new ArrayList<Class<?>>();
        for (var permitted : of.getPermittedSubclasses()) {
            if (permitted.isSealed()) {
                found.addAll(types(permitted));
            } else {
                found.add(permitted);
            }
        }
        return found;
    }
}
