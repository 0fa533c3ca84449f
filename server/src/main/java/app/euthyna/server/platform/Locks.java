package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.util.Collection;
import java.util.List;
import java.util.function.Supplier;
import org.hibernate.dialect.Dialect;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.util.function.SingletonSupplier;

/**
 * Row locks, for every rule that looks at more than one row: no isolation level of the database stands in for them.
 * Always in the order customers, orders, quotas, shelves, number series, ledger head, and within each by id.
 */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class Locks {

    /** What is locked, in the order in which it may be. */
    public enum Rank {
        CUSTOMERS,
        ORDERS,
        QUOTAS,
        SHELVES,
        SERIES,
        LEDGER
    }

    /** Hears of every lock that is taken. */
    public interface Listener {
        void taken(Rank rank);
    }

    /** Of the strength that lets others point to the row meanwhile, where the database has one. */
    private final String forUpdate;

    private final IdQueries queries;
    private final Supplier<List<Listener>> listeners;
    private final TransactionCache<String, Boolean> heldOrders = TransactionCache.toTheEnd();
    private final TransactionCache<String, Boolean> madeOrders = TransactionCache.toTheEnd();
    private final TransactionCache<Long, Boolean> held = TransactionCache.toTheEnd();
    private final TransactionCache<String, Boolean> heldItems = TransactionCache.toTheEnd();

    Locks(Dialect dialect, IdQueries queries, ObjectProvider<Listener> listeners) {
        this.forUpdate = dialect.getForUpdateString();
        this.queries = queries;
        this.listeners = SingletonSupplier.of(() -> listeners.orderedStream().toList());
    }

    /** Tells of a lock that is about to be taken. */
    public void taken(Rank rank) {
        listeners.get().forEach(listener -> listener.taken(rank));
    }

    /** For everything that looks at a customer's exposure or PO numbers. */
    public void customer(String code) {
        customers(List.of(queries.customer(code)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", code)))));
    }

    public void customers(Collection<Long> ids) {
        if (held.keys().containsAll(ids)) {
            return;
        }
        taken(Rank.CUSTOMERS);
        ids.stream().sorted().distinct().forEach(id -> {
            row("customer", id);
            held.put(id, true);
        });
        TransactionCache.forgetReads();
    }

    /** An order that this transaction has made: nobody else sees it before its end. */
    public void made(String order) {
        heldOrders.put(order, true);
        madeOrders.put(order, true);
    }

    /** Whether this transaction has made an order: what it has not written of it is not there. */
    public boolean hasMade(String order) {
        return madeOrders.known(order).isPresent();
    }

    /** Whether this transaction has orders locked. */
    public boolean holdsOrders(Collection<String> numbers) {
        return heldOrders.keys().containsAll(numbers);
    }

    /** Whether this transaction has a customer locked. */
    public boolean holdsCustomer(long id) {
        return held.known(id).isPresent();
    }

    /** For everything that decides on a chain. */
    public void orders(Collection<String> numbers) {
        if (holdsOrders(numbers)) {
            return;
        }
        taken(Rank.ORDERS);
        queries.orders(Many.names(numbers)).forEach(id -> row("sales_order", id));
        numbers.forEach(number -> heldOrders.put(number, true));
        TransactionCache.forgetReads();
    }

    /** For everything that counts what others, also of other customers, have used of rationed items. */
    public void quotas(Collection<String> items) {
        if (heldItems.keys().containsAll(items)) {
            return;
        }
        taken(Rank.QUOTAS);
        var ids = queries.quotas(Many.names(items));
        // one that was taken away meanwhile bounds nobody
        ids.forEach(id -> row("quota", id));
        items.forEach(item -> heldItems.put(item, true));
        if (!ids.isEmpty()) {
            TransactionCache.forgetReads();
        }
    }

    /** The shelves of items in every store, for several orders that take from them one after another. */
    public void shelves(Collection<String> items) {
        if (items.isEmpty()) {
            return;
        }
        taken(Rank.SHELVES);
        queries.shelves(Many.names(items)).forEach(id -> row("shelf", id));
    }

    private void row(String table, long id) {
        queries.session()
                .createNativeQuery("select id from " + table + " where id = :id" + forUpdate, Long.class)
                // said beforehand: else what the columns are is found out anew each time
                .addScalar("id", Long.class)
                .setParameter("id", id)
                .getResultList();
    }

    /** The customers of orders, locked; then the orders. */
    public void customersAndOrders(Collection<String> orders) {
        if (!orders.isEmpty()) {
            customers(queries.customersOfOrders(Many.names(orders)));
            orders(orders);
        }
    }

    /** The customer of an order, locked; then the order. */
    public void customerAndOrder(String order) {
        var customer = queries.customerOfOrder(order)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("order", order)));
        customers(List.of(customer));
        orders(List.of(order));
    }
}
