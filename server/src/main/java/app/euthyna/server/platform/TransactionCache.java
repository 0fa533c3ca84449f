package app.euthyna.server.platform;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Values that are looked up once in a transaction and kept to its end. Outside a transaction nothing is kept. Whoever
 * takes a row lock has everything forgotten, since others may have changed it while one waited.
 */
public final class TransactionCache<K, V> {

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

    /** Has a value read anew. */
    public void forget(K key) {
        kept().remove(key);
    }

    /** The keys of what is kept. */
    public Set<K> keys() {
        return Set.copyOf(kept().keySet());
    }

    /** All keys kept, which are then forgotten. */
    public Map<K, V> takeAll() {
        var all = Map.copyOf(kept());
        kept().clear();
        return all;
    }

    /** Has everything read in this transaction read anew. */
    static void forgetReads() {
        var bound = (Bound) TransactionSynchronizationManager.getResource(TransactionCache.class);
        if (bound != null) {
            bound.maps.keySet().removeIf(owner -> !owner.toTheEnd);
        }
    }

    private final boolean toTheEnd;

    private TransactionCache(boolean toTheEnd) {
        this.toTheEnd = toTheEnd;
    }

    /** For what was read from the database. */
    public static <K, V> TransactionCache<K, V> readThrough() {
        return new TransactionCache<>(false);
    }

    /** For what the transaction holds, has done or is still to do; no lock makes it forgotten. */
    public static <K, V> TransactionCache<K, V> toTheEnd() {
        return new TransactionCache<>(true);
    }

    @SuppressWarnings("unchecked")
    private Map<K, V> kept() {
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            return new HashMap<>();
        }
        var bound = (Bound) TransactionSynchronizationManager.getResource(TransactionCache.class);
        if (bound == null) {
            bound = new Bound();
            TransactionSynchronizationManager.bindResource(TransactionCache.class, bound);
            TransactionSynchronizationManager.registerSynchronization(bound);
        }
        return (Map<K, V>) bound.maps.computeIfAbsent(this, owner -> new HashMap<>());
    }

    private static final class Bound implements TransactionSynchronization {

        private final Map<TransactionCache<?, ?>, Map<?, ?>> maps = new HashMap<>();

        @Override
        public void suspend() {
            TransactionSynchronizationManager.unbindResource(TransactionCache.class);
        }

        @Override
        public void resume() {
            TransactionSynchronizationManager.bindResource(TransactionCache.class, this);
        }

        @Override
        public void afterCompletion(int status) {
            TransactionSynchronizationManager.unbindResourceIfPossible(TransactionCache.class);
        }
    }
}
