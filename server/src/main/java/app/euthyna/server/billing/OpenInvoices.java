package app.euthyna.server.billing;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.server.platform.Company;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Invoices with what is open of them. */
@Component
public class OpenInvoices {

    private final JdbcClient jdbc;
    private final Company company;

    OpenInvoices(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
        this.company = company;
    }

    /**
     * Invoices with what they had open on {@code :day}, as a table with the columns id, number, customer_id, due_on and
     * still: the gross less all that had been set against it by that day. Of today it is what they carry.
     */
    public static String asOf(boolean today) {
        return today
                ? "select id, number, customer_id, due_on, open_amount as still from invoice where open_amount > 0"
                : """
                    select n.id, n.number, n.customer_id, n.due_on, case when n.reversed_on <= :day then 0
                        else n.gross end
                        - coalesce((select sum(a.amount) from allocation a where a.invoice_id = n.id
                            and a.allocated_on <= :day), 0)
                        - coalesce((select sum(u.amount) from deposit_use u where u.invoice_id = n.id
                            and u.used_on <= :day), 0) as still
                    from invoice n where n.invoiced_on <= :day and (n.open_amount > 0
                        or n.reversed_on > :day
                        or n.id in (select l.invoice_id from allocation l where l.allocated_on > :day)
                        or n.id in (select v.invoice_id from deposit_use v where v.used_on > :day
                            and v.invoice_id is not null))\
                    """;
    }

    /** Those of these numbers that there are, also where nothing is open. */
    List<OpenInvoice> numbered(List<String> numbers) {
        return numbers.isEmpty() ? List.of() : where("i.number in (:these)", numbers);
    }

    /** Those on which an order stands and something is open, oldest first. */
    List<OpenInvoice> ofOrder(long orderId) {
        return where(
                "i.id in (select invoice_id from invoice_line where root_order_id = :these) and i.open_amount > 0"
                        + " order by i.id",
                orderId);
    }

    private List<OpenInvoice> where(String which, Object these) {
        return jdbc.sql("select i.number, c.code, i.gross, i.open_amount from invoice i join customer c on c.id ="
                        + " i.customer_id where "
                        + which)
                .params(Map.of("these", these))
                .query((r, n) -> new OpenInvoice(
                        r.getString(1),
                        r.getString(2),
                        company.money(r.getBigDecimal(3)),
                        company.money(r.getBigDecimal(4))))
                .list();
    }
}
