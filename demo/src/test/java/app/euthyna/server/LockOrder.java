package app.euthyna.server;

import app.euthyna.server.platform.Locks;
import java.util.EnumMap;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicLong;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** In every transaction of the tests: locks are acquired in one order, so no two commands can wait for one another. */
@TestConfiguration
public class LockOrder implements Locks.Listener {

    /** So many locks were watched. */
    public static final AtomicLong WATCHED = new AtomicLong();

    /** Locks that were taken out of turn, also by workers whose failures are only logged. */
    public static final Queue<String> OUT_OF_TURN = new ConcurrentLinkedQueue<>();

    private static final ThreadLocal<Map<Locks.Rank, Integer>> SEEN =
            ThreadLocal.withInitial(() -> new EnumMap<>(Locks.Rank.class));

    @Override
    public void taken(Locks.Rank rank) {
        WATCHED.incrementAndGet();
        var seen = SEEN.get();
        if (seen.isEmpty()) {
            TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                @Override
                public void afterCompletion(int status) {
                    SEEN.remove();
                }
            });
        }
        // a gapless number is given when its document is made; what follows from that may still want a shelf
        if (!seen.keySet().stream().allMatch(earlier -> earlier.compareTo(rank) <= 0 || earlier == Locks.Rank.SERIES)) {
            OUT_OF_TURN.add("%s after %s in %s"
                    .formatted(rank, seen.keySet(), Thread.currentThread().getName()));
        }
        seen.merge(rank, 1, Integer::sum);
    }
}
