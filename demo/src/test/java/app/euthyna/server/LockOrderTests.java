package app.euthyna.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.euthyna.server.platform.Locks;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.IllegalTransactionStateException;
import org.springframework.transaction.support.TransactionTemplate;

/** What watches the locks in all tests of the server sees one that is taken out of turn, and only that. */
class LockOrderTests extends OnServer {

    @Autowired
    Locks locks;

    @Autowired
    TransactionTemplate transactions;

    private void inOne(Runnable deeds) {
        transactions.executeWithoutResult(status -> deeds.run());
    }

    private List<String> outOfTurn() {
        var seen = List.copyOf(LockOrder.OUT_OF_TURN);
        LockOrder.OUT_OF_TURN.clear();
        return seen;
    }

    @Test
    void inTheirOrderTheyAreTakenInTurn() {
        var order = cleared(1);
        var watched = LockOrder.WATCHED.get();
        inOne(() -> {
            locks.customerAndOrder(order);
            locks.quotas(List.of(item));
            locks.shelves(List.of(item));
        });
        assertThat(LockOrder.WATCHED.get() - watched).isEqualTo(4);
        assertThat(outOfTurn()).isEmpty();
    }

    @Test
    void oneThatComesLateIsSeenByNameAndOnlyIt() {
        var order = cleared(1);
        inOne(() -> {
            locks.shelves(List.of(item));
            locks.orders(List.of(order));
        });
        assertThat(outOfTurn()).singleElement().asString().startsWith("ORDERS after [SHELVES]");
        inOne(() -> locks.orders(List.of(order)));
        assertThat(outOfTurn()).as("the next transaction begins anew").isEmpty();
    }

    @Test
    void whatIsHeldIsNotTakenAgain() {
        var order = cleared(1);
        var watched = LockOrder.WATCHED.get();
        inOne(() -> {
            locks.customerAndOrder(order);
            locks.shelves(List.of(item));
            locks.customerAndOrder(order);
        });
        assertThat(LockOrder.WATCHED.get() - watched).isEqualTo(3);
        assertThat(outOfTurn()).isEmpty();
    }

    @Test
    void thereIsNoneWithoutATransaction() {
        assertThatThrownBy(() -> locks.shelves(List.of(item))).isInstanceOf(IllegalTransactionStateException.class);
    }
}
