package app.euthyna.server.platform;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Values that are looked up once in a transaction and kept to its end. Outside a transaction nothing is kept. Whoever
 * takes a row lock has everything forgotten, since others may have changed it while one waited.
 */
public final class PerTransaction<K, V> {

    /** The value for a key, loaded unless it is kept. */
    public V get(K key, Function<K, V> load) {
        var kept = kept();
        var value = kept.get(key);
        if (value == null) {
            value = load.apply(key);
            kept.put(key, value);
        }
        return value;
    }

    /** The value for a key, if it is kept. */
    public Optional<V> known(K key) {
        return Optional.ofNullable(kept().get(key));
    }

    /** Changes a value that is kept; does nothing to one that is not. */
    public void change(K key, Function<V, V> change) {
        kept().computeIfPresent(key, (k, value) -> change.apply(value));
    }

    public void put(K key, V value) {
        kept().put(key, value);
    }

    /** All keys kept, which are then forgotten. */
    public Map<K, V> takeAll() {
        var all = Map.copyOf(kept());
        kept().clear();
        return all;
    }

    /** Has everything read in this transaction read anew. */
    static void forgetWhatWasRead() {
        var bound = (Bound) TransactionSynchronizationManager.getResource(PerTransaction.class);
        if (bound != null) {
            bound.maps.keySet().removeIf(owner -> !owner.pending);
        }
    }

    private final boolean pending;

    private PerTransaction(boolean pending) {
        this.pending = pending;
    }

    /** For what was read from the database. */
    public static <K, V> PerTransaction<K, V> ofWhatWasRead() {
        return new PerTransaction<>(false);
    }

    /** For what is still to be written; no lock makes it forgotten. */
    public static <K, V> PerTransaction<K, V> ofWhatIsToBeWritten() {
        return new PerTransaction<>(true);
    }

    @SuppressWarnings("unchecked")
    private Map<K, V> kept() {
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            return new HashMap<>();
        }
        var bound = (Bound) TransactionSynchronizationManager.getResource(PerTransaction.class);
        if (bound == null) {
            bound = new Bound();
            TransactionSynchronizationManager.bindResource(PerTransaction.class, bound);
            TransactionSynchronizationManager.registerSynchronization(bound);
        }
        return (Map<K, V>) bound.maps.computeIfAbsent(this, owner -> new HashMap<>());
    }

    private static final class Bound implements TransactionSynchronization {

        private final Map<PerTransaction<?, ?>, Map<?, ?>> maps = new HashMap<>();

        @Override
        public void suspend() {
            TransactionSynchronizationManager.unbindResource(PerTransaction.class);
        }

        @Override
        public void resume() {
            TransactionSynchronizationManager.bindResource(PerTransaction.class, this);
        }

        @Override
        public void afterCompletion(int status) {
            TransactionSynchronizationManager.unbindResourceIfPossible(PerTransaction.class);
        }
    }
}
