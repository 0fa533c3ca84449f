package app.euthyna.server.check;

import app.euthyna.core.check.Quota;
import app.euthyna.core.order.Order;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.Customer;
import app.euthyna.server.platform.Ids;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Quotas of rationed items, and what orders have used of them. */
@Component
public class QuotaStore {

    private static final String COLUMNS =
            "i.code, q.scope, q.scope_key, q.season_from, q.season_to, q.quantity from quota q join item i on i.id ="
                    + " q.item_id ";

    private final JdbcClient jdbc;
    private final Ids ids;

    QuotaStore(JdbcClient jdbc, Ids ids) {
        this.jdbc = jdbc;
        this.ids = ids;
    }

    /**
     * Those of an order's items that its customer, the customer's region or its seller has on a day; the order itself
     * uses nothing yet.
     */
    List<Quota> of(Order order, Customer customer, LocalDate on) {
        var items = order.lines().stream().map(line -> line.item()).collect(Collectors.toSet());
        return items.isEmpty()
                ? List.of()
                : jdbc.sql("select " + COLUMNS + """
                    where i.code in (:items) and :on between q.season_from and q.season_to
                      and (q.scope = 'CUSTOMER' and q.scope_key = :customer or q.scope = 'REGION'
                          and q.scope_key = :region
                           or q.scope = 'SELLER' and q.scope_key = :seller) order by q.id\
                    """)
                        .param("items", items)
                        .param("on", on)
                        .param("customer", customer.code())
                        .param("region", customer.region())
                        .param("seller", order.author())
                        .query((r, n) -> quota(r, order.number()))
                        .list();
    }

    /** Items of these that several customers share a quota of. */
    Set<String> shared(Set<String> items) {
        return items.isEmpty()
                ? Set.of()
                : Set.copyOf(jdbc.sql("select distinct i.code from quota q join item i on i.id = q.item_id"
                                + " where i.code in (:items) and q.scope <> 'CUSTOMER'")
                        .param("items", items)
                        .query(String.class)
                        .list());
    }

    /** All quotas of an item, the newest season first. */
    List<Quota> ofItem(String item) {
        return jdbc.sql("select " + COLUMNS + "where i.code = ? order by q.season_from desc, q.scope, q.scope_key")
                .param(item)
                .query((r, n) -> quota(r, ""))
                .list();
    }

    private Quota quota(ResultSet row, String beside) throws SQLException {
        var item = row.getString(1);
        var scope = Quota.Scope.valueOf(row.getString(2));
        var key = row.getString(3);
        var from = row.getObject(4, LocalDate.class);
        var to = row.getObject(5, LocalDate.class);
        return new Quota(
                item,
                scope,
                key,
                from,
                to,
                new Quantity(row.getBigDecimal(6)),
                used(item, scope, key, from, to, beside));
    }

    /** Ordered less cancelled, of orders that are cleared or were. */
    private Quantity used(String item, Quota.Scope scope, String key, LocalDate from, LocalDate to, String beside) {
        var whose = switch (scope) {
            case CUSTOMER -> "o.customer_id = (select id from customer where code = :key)";
            case REGION -> "o.customer_id in (select id from customer where region = :key)";
            case SELLER -> "o.author = :key";
        };
        return new Quantity(jdbc.sql("""
            select coalesce(sum(l.quantity - coalesce((select sum(k.quantity) from cancellation_line k
            where k.root_order_id = l.order_id
                and k.order_line_no = l.line_no), 0)), 0)
            from sales_order_line l join sales_order o on o.id = l.order_id
            where l.item_code = :item and l.removed = false and o.ordered_on between :from and :to
                and o.number <> :beside
              and o.state in ('CLEARED', 'COMPLETED', 'CLOSED_SHORT') and \
            """ + whose)
                .param("item", item)
                .param("from", from)
                .param("to", to)
                .param("beside", beside)
                .param("key", key)
                .query((r, n) -> r.getBigDecimal(1))
                .single());
    }

    /** Sets what someone may have of an item in a season; nothing takes the quota away. */
    public void set(Quota.Scope scope, String key, String item, LocalDate from, LocalDate to, Quantity granted) {
        jdbc.sql("delete from quota where item_id = ? and scope = ? and scope_key = ? and season_from = ?")
                .params(ids.item(item), scope.name(), key, from)
                .update();
        if (granted != null) {
            jdbc.sql("insert into quota (item_id, scope, scope_key, season_from, season_to, quantity) values"
                            + " (?, ?, ?, ?, ?, ?)")
                    .params(ids.item(item), scope.name(), key, from, to, granted.value())
                    .update();
        }
    }
}
