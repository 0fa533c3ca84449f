package app.euthyna.server.platform;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What the commands of a thread have left to be done after them, each thing once and in its order. A queue in the
 * database keeps the same until it is done; what stays there longer was left behind.
 */
public final class LeftWork<K extends Comparable<K>> {

    /** Entries that are older were left behind: their server is gone, or their work failed. */
    private static final Duration LEFT_BEHIND = Duration.ofSeconds(30);

    private final ThreadLocal<TreeSet<K>> left = ThreadLocal.withInitial(TreeSet::new);
    private final ThreadLocal<Boolean> working = ThreadLocal.withInitial(() -> false);

    /** Entries of a queue from before this were left behind. */
    public static Instant leftBehindBefore() {
        return Instant.now().minus(LEFT_BEHIND);
    }

    /** Leaves something, whatever becomes of the transaction. */
    public void add(K what) {
        left.get().add(what);
    }

    /** Leaves something if the transaction is committed. */
    public void addAfterCommit(K what) {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                add(what);
            }
        });
    }

    /** Does what is left, as {@link AfterCommand#workOff} says; what is left meanwhile stays for another round. */
    public boolean workOff(Consumer<K> work) {
        if (working.get() || left.get().isEmpty() || TransactionSynchronizationManager.isActualTransactionActive()) {
            return false;
        }
        working.set(true);
        try {
            var now = List.copyOf(left.get());
            left.get().clear();
            now.forEach(work);
            return true;
        } finally {
            working.set(false);
        }
    }
}
