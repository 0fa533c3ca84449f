package app.euthyna.server.order;

import app.euthyna.core.order.Order;
import app.euthyna.core.order.Replacing;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.DocumentOrders;
import app.euthyna.server.platform.RefusedException;
import java.util.HashMap;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** What replacements stand for: the return or dispatch that each names, and what others took of it. */
@Component
class Replacements {

    private final JdbcClient jdbc;
    private final DocumentOrders documentOrders;

    Replacements(JdbcClient jdbc, DocumentOrders documentOrders) {
        this.documentOrders = documentOrders;
        this.jdbc = jdbc;
    }

    private record Named(DocumentRef document, String customer) {}

    /**
     * Keeps what a submitted replacement stands for, or refuses it; its customer is locked.
     *
     * @return the order that the goods were first sent with
     */
    String keep(long orderId, Order order) {
        var number = order.details().replaces();
        var named = named(number);
        var refusals = Replacing.refusals(
                order,
                new Replacing.Replaced(
                        named.document(), named.customer(), quantities(named.document()), taken(number, orderId)));
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        jdbc.sql("delete from replacement where order_id = ?").param(orderId).update();
        jdbc.sql("insert into replacement (order_id, document_kind, document_number) values (?, ?, ?)")
                .params(orderId, named.document().kind().name(), number)
                .update();
        return firstOrder(named.document());
    }

    private Named named(String number) {
        return jdbc.sql("""
            select 'RETURN', c.code from goods_return g join customer c on c.id = g.customer_id
            where g.number = :number and g.withdrawn = false
            union all select 'DISPATCH', c.code from dispatch d join sales_order o on o.id = d.order_id
            join customer c on c.id = o.customer_id where d.number = :number and d.state = 'DEPARTED'\
            """)
                .param("number", number)
                .query((r, n) ->
                        new Named(new DocumentRef(DocumentKind.valueOf(r.getString(1)), number), r.getString(2)))
                .optional()
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("return or departed dispatch", number)));
    }

    /** Of a return what came and is not sent back, or is authorised to come; of a dispatch what departed. */
    private Map<String, Quantity> quantities(DocumentRef document) {
        return byItem(document.kind() == DocumentKind.RETURN ? """
                          select i.code, sum(greatest(l.authorised, coalesce((select sum(p.quantity) from return_part p
                              where p.return_line_id = l.id), 0)) - coalesce((select sum(x.quantity) from return_outcome x
                              join return_part p on p.id = x.part_id
                              where p.return_line_id = l.id and x.kind = 'SEND_BACK'), 0))
                          from return_line l join goods_return g on g.id = l.return_id join item i on i.id = l.item_id
                          where g.number = :number group by i.code\
                          """ : """
                          select s.item_code, sum(l.quantity) from dispatch_line l join dispatch d on d.id = l.dispatch_id
                          join sales_order_line s on s.order_id = l.root_order_id and s.line_no = l.order_line_no
                          where d.number = :number group by s.item_code\
                          """, document.number(), 0);
    }

    private Map<String, Quantity> taken(String number, long except) {
        return byItem("""
            select l.item_code, sum(l.quantity - coalesce((select sum(x.quantity) from cancellation_line x
                where x.root_order_id = l.order_id and x.order_line_no = l.line_no), 0))
            from replacement r join sales_order o on o.id = r.order_id join sales_order_line l on l.order_id = o.id
            where r.document_number = :number and r.order_id <> :except and l.removed = false
              and o.state not in ('DRAFT', 'CANCELLED', 'DECLINED') group by l.item_code\
            """, number, except);
    }

    private Map<String, Quantity> byItem(String sql, String number, long except) {
        var quantities = new HashMap<String, Quantity>();
        jdbc.sql(sql)
                .param("number", number)
                .param("except", except)
                .query((r, n) -> quantities.put(r.getString(1), new Quantity(r.getBigDecimal(2))))
                .list();
        return quantities;
    }

    /** The order that goods of a document were first sent with: of a return, that of its first line. */
    String firstOrder(DocumentRef document) {
        return document.kind() == DocumentKind.RETURN
                ? jdbc.sql(
                                "select o.number from goods_return g join return_line l on l.return_id = g.id join sales_order o"
                                        + " on o.id = l.root_order_id where g.number = ? order by l.line_no"
                                        + " fetch first 1 rows only")
                        .param(document.number())
                        .query(String.class)
                        .single()
                : documentOrders.of(document.kind(), document.number()).get(0);
    }
}
