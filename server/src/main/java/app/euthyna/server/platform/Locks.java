package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.util.Collection;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Row locks, for every rule that looks at more than one row: no isolation level of the database stands in for them.
 * Always in the order customers, shelves, orders, number series, ledger head, and within each by id.
 */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class Locks {

    private final JdbcClient jdbc;
    private final TransactionCache<Long, Boolean> held = TransactionCache.toBeWritten();

    Locks(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** For everything that looks at a customer's exposure or PO numbers. */
    public void customer(String code) {
        var locked = jdbc.sql("select id from customer where code = ? for update")
                .param(code)
                .query(Long.class)
                .optional();
        if (locked.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("customer", code));
        }
        held.put(locked.get(), true);
        TransactionCache.forgetReads();
    }

    public void customers(Collection<Long> ids) {
        ids.stream()
                .sorted()
                .distinct()
                .forEach(id -> held.put(
                        jdbc.sql("select id from customer where id = ? for update")
                                .param(id)
                                .query(Long.class)
                                .single(),
                        true));
        TransactionCache.forgetReads();
    }

    /** Whether this transaction has a customer locked. */
    public boolean holdsCustomer(long id) {
        return held.known(id).isPresent();
    }

    /** For everything that decides on a chain. */
    public void orders(Collection<String> numbers) {
        if (numbers.isEmpty()) {
            return;
        }
        List<Long> ids = jdbc.sql("select id from sales_order where number in (:numbers) order by id")
                .param("numbers", numbers)
                .query(Long.class)
                .list();
        ids.forEach(id -> jdbc.sql("select id from sales_order where id = ? for update")
                .param(id)
                .query(Long.class)
                .single());
        TransactionCache.forgetReads();
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
