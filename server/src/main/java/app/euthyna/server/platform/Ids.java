package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.util.Collection;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** From the numbers and codes that the core knows to the rows that carry them. */
@Component
public class Ids {

    private final JdbcClient jdbc;
    private final TransactionCache<String, Long> known = TransactionCache.readThrough();

    Ids(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    public long order(String number) {
        return one("select id from sales_order where number = ?", "order", number);
    }

    public long customer(String code) {
        return one("select id from customer where code = ?", "customer", code);
    }

    public long item(String code) {
        return one("select id from item where code = ?", "item", code);
    }

    public long site(String code) {
        return one("select id from site where code = ?", "store", code);
    }

    public long dispatch(String number) {
        return one("select id from dispatch where number = ?", "dispatch", number);
    }

    public long invoice(String number) {
        return one("select id from invoice where number = ?", "invoice", number);
    }

    /** The customer of an invoice. */
    public long invoiceCustomer(String number) {
        return one("select customer_id from invoice where number = ?", "invoice", number);
    }

    public long deposit(String number) {
        return one("select id from deposit where number = ?", "deposit", number);
    }

    public long payment(String number) {
        return one("select id from payment where number = ?", "payment", number);
    }

    /** Numbers of orders by their id. */
    public Map<Long, String> orderNumbers(Collection<Long> ids) {
        return ids.isEmpty()
                ? Map.of()
                : jdbc
                        .sql("select id, number from sales_order where id in (:ids)")
                        .param("ids", ids)
                        .query((r, n) -> Map.entry(r.getLong(1), r.getString(2)))
                        .list()
                        .stream()
                        .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    public String itemCode(long id) {
        return jdbc.sql("select code from item where id = ?")
                .param(id)
                .query(String.class)
                .single();
    }

    public String siteCode(long id) {
        return jdbc.sql("select code from site where id = ?")
                .param(id)
                .query(String.class)
                .single();
    }

    private long one(String sql, String what, String code) {
        return known.get(
                what + " " + code,
                key -> jdbc.sql(sql)
                        .param(code)
                        .query(Long.class)
                        .optional()
                        .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(what, code))));
    }
}
