package app.euthyna.server.masterdata;

import app.euthyna.core.order.PriceList;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.RefusedException;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Prices by customer and quantity. */
@Component
public class PriceBreaks {

    private final JdbcClient jdbc;

    PriceBreaks(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Row(String item, PriceList.Break entry) {}

    /** What holds for a customer: its own prices and everybody's, by item. */
    public Map<String, List<PriceList.Break>> of(Collection<String> items, String customer) {
        return items.isEmpty()
                ? Map.of()
                : jdbc
                        .sql("""
                            select i.code, coalesce(c.code, ''), b.from_quantity, b.unit_price
                            from price_break b join item i on i.id = b.item_id
                            left join customer c on c.id = b.customer_id
                            where i.code in (:items) and (b.customer_id is null or c.code = :customer)\
                            """)
                        .param("items", items)
                        .param("customer", customer)
                        .query((r, n) -> new Row(
                                r.getString(1),
                                new PriceList.Break(
                                        r.getString(2), new Quantity(r.getBigDecimal(3)), r.getBigDecimal(4))))
                        .list()
                        .stream()
                        .collect(Collectors.groupingBy(Row::item, Collectors.mapping(Row::entry, Collectors.toList())));
    }

    /** All of an item: everybody's first, then customer by customer, each from the smallest quantity on. */
    public List<PriceList.Break> of(String item) {
        return jdbc.sql("""
            select coalesce(c.code, ''), b.from_quantity, b.unit_price from price_break b left
            join customer c on c.id = b.customer_id
            where b.item_id = (select id from item where code = ?) order by coalesce(c.code, ''), b.from_quantity\
            """)
                .param(item)
                .query((r, n) ->
                        new PriceList.Break(r.getString(1), new Quantity(r.getBigDecimal(2)), r.getBigDecimal(3)))
                .list();
    }

    /** Sets the prices of an item in place of those before. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void set(String item, List<PriceList.Break> breaks) {
        var seen = new HashSet<String>();
        for (var one : breaks) {
            if (!seen.add(one.customer() + " " + one.from())) {
                throw new RefusedException(CommonRefusal.Incomplete.of("breaks", "each customer and quantity once"));
            }
        }
        jdbc.sql("delete from price_break where item_id = (select id from item where code = ?)")
                .param(item)
                .update();
        for (var one : breaks) {
            var customer = one.customer().isEmpty()
                    ? null
                    : jdbc.sql("select id from customer where code = ?")
                            .param(one.customer())
                            .query(Long.class)
                            .optional()
                            .orElseThrow(
                                    () -> new RefusedException(new CommonRefusal.NotFound("customer", one.customer())));
            jdbc.sql("insert into price_break (item_id, customer_id, from_quantity, unit_price) select i.id,"
                            + " cast(? as bigint), ?, ? from item i where i.code = ?")
                    .param(customer)
                    .param(one.from().value())
                    .param(one.unit())
                    .param(item)
                    .update();
        }
    }
}
