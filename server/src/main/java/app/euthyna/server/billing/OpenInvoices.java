package app.euthyna.server.billing;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.server.platform.Company;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Invoices with what is open of them. */
@Component
class OpenInvoices {

    private final JdbcClient jdbc;
    private final Company company;

    OpenInvoices(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
        this.company = company;
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
