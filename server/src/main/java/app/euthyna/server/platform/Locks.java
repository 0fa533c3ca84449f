package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.util.Collection;
import java.util.List;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

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

    private final JdbcClient jdbc;
    private final ObjectProvider<Listener> listeners;
    private final TransactionCache<String, Boolean> heldOrders = TransactionCache.toTheEnd();
    private final TransactionCache<Long, Boolean> held = TransactionCache.toTheEnd();
    private final TransactionCache<String, Boolean> heldItems = TransactionCache.toTheEnd();

    Locks(JdbcClient jdbc, ObjectProvider<Listener> listeners) {
        this.jdbc = jdbc;
        this.listeners = listeners;
    }

    /** Tells of a lock that is about to be taken. */
    public void taken(Rank rank) {
        listeners.forEach(listener -> listener.taken(rank));
    }

    /** For everything that looks at a customer's exposure or PO numbers. */
    public void customer(String code) {
        customers(List.of(jdbc.sql("select id from customer where code = ?")
                .param(code)
                .query(Long.class)
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("customer", code)))));
    }

    public void customers(Collection<Long> ids) {
        if (held.keys().containsAll(ids)) {
            return;
        }
        taken(Rank.CUSTOMERS);
        ids.stream().sorted().distinct().forEach(id -> held.put(row("customer", id), true));
        TransactionCache.forgetReads();
    }

    /** An order that this transaction has made: nobody else sees it before its end. */
    public void made(String order) {
        heldOrders.put(order, true);
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
        List<Long> ids = jdbc.sql("select id from sales_order where number in (:numbers) order by id")
                .param("numbers", numbers)
                .query(Long.class)
                .list();
        ids.forEach(id -> row("sales_order", id));
        numbers.forEach(number -> heldOrders.put(number, true));
        TransactionCache.forgetReads();
    }

    /** For everything that counts what others, also of other customers, have used of rationed items. */
    public void quotas(Collection<String> items) {
        if (heldItems.keys().containsAll(items)) {
            return;
        }
        taken(Rank.QUOTAS);
        var ids = jdbc.sql(
                        "select q.id from quota q join item i on i.id = q.item_id where i.code in (:items) order by q.id")
                .param("items", items)
                .query(Long.class)
                .list();
        // one that was taken away meanwhile bounds nobody
        ids.forEach(id -> jdbc.sql("select id from quota where id = ? for update")
                .param(id)
                .query(Long.class)
                .optional());
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
        jdbc.sql("select s.id from shelf s join item i on i.id = s.item_id where i.code in (:items)"
                        + " order by s.item_id, s.site_id")
                .param("items", items)
                .query(Long.class)
                .list()
                .forEach(id -> row("shelf", id));
    }

    private long row(String table, long id) {
        return jdbc.sql("select id from " + table + " where id = ? for update")
                .param(id)
                .query(Long.class)
                .single();
    }

    /** The customers of orders, locked; then the orders. */
    public void customersAndOrders(Collection<String> orders) {
        if (!orders.isEmpty()) {
            customers(jdbc.sql("select distinct customer_id from sales_order where number in (:numbers)")
                    .param("numbers", orders)
                    .query(Long.class)
                    .list());
            orders(orders);
        }
    }

    /** The customer of an order, locked; then the order. */
    public void customerAndOrder(String order) {
        var customer = jdbc.sql("select customer_id from sales_order where number = ?")
                .param(order)
                .query(Long.class)
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("order", order)));
        customers(List.of(customer));
        orders(List.of(order));
    }
}
