package app.euthyna.server.ledger;

import app.euthyna.server.platform.TransactionCache;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * What a transaction is to post. The head of the ledger is locked last of all, when the transaction is about to end or
 * somebody in it reads entries, so that whoever holds it waits for nothing else.
 */
@Component
class PendingPostings {

    private static final String ALL = "";

    private final TransactionCache<String, List<Runnable>> noted = TransactionCache.toTheEnd();

    void add(Runnable posting) {
        noted.get(ALL, all -> {
                    TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                        @Override
                        public void beforeCommit(boolean readOnly) {
                            post();
                        }
                    });
                    return new ArrayList<>();
                })
                .add(posting);
    }

    /** Posts what is noted so far. */
    void post() {
        var postings = noted.known(ALL).orElse(List.of());
        while (!postings.isEmpty()) {
            var next = List.copyOf(postings);
            postings.clear();
            next.forEach(Runnable::run);
        }
    }
}
