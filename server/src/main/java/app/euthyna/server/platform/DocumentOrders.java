package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import java.util.List;
import java.util.Locale;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The orders that the lines of a document began at. */
@Component
public class DocumentOrders {

    private final JdbcClient jdbc;

    DocumentOrders(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Numbers of the orders, sorted; refused where there is no such document. */
    public List<String> of(DocumentKind kind, String number) {
        var orders = jdbc.sql(
                        switch (kind) {
                            case ORDER -> "select number from sales_order where number = ?";
                            case DISPATCH ->
                                "select o.number from dispatch d join sales_order o on o.id = d.order_id where"
                                        + " d.number = ?";
                            case DEPOSIT ->
                                "select o.number from deposit d join sales_order o on o.id = d.order_id where d.number"
                                        + " = ?";
                            case INVOICE ->
                                "select distinct o.number from invoice i join invoice_line l on l.invoice_id = i.id"
                                        + " join sales_order o on o.id = l.root_order_id where i.number = ? order by 1";
                            case RETURN ->
                                "select distinct o.number from goods_return g join return_line l on l.return_id = g.id"
                                        + " join sales_order o on o.id = l.root_order_id where g.number = ? order by 1";
                            case CREDIT_NOTE ->
                                "select distinct o.number from credit_note k join credit_note_line l on"
                                        + " l.credit_note_id = k.id join sales_order o on o.id = l.root_order_id where"
                                        + " k.number = ? order by 1";
                            default -> throw new IllegalArgumentException("lines of a " + kind);
                        })
                .param(number)
                .query(String.class)
                .list();
        if (orders.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound(kind.word().toLowerCase(Locale.ROOT), number));
        }
        return orders;
    }
}
