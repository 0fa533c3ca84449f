package app.euthyna.server.order;

import app.euthyna.core.order.Recurrence;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Quotes, blanket orders and recurring orders as they are kept, and what orders took of them. */
@Component
class SalesAgreementStore {

    private final JdbcClient jdbc;
    private final Company company;

    SalesAgreementStore(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
        this.company = company;
    }

    /** An agreement with what is kept beside it. */
    record Kept(
            long id,
            SalesAgreement agreement,
            String po,
            String remark,
            String details,
            String author,
            LocalDate writtenOn,
            long version) {}

    Kept find(String number) {
        return read("q.number = ?", number)
                .orElseThrow(() ->
                        new RefusedException(new CommonRefusal.NotFound("quote, blanket or recurring order", number)));
    }

    Optional<SalesAgreement> byId(long id) {
        return read("q.id = ?", id).map(Kept::agreement);
    }

    private Optional<Kept> read(String where, Object key) {
        return jdbc.sql("select q.*, c.code from sales_agreement q join customer c on c.id = q.customer_id where "
                        + where)
                .param(key)
                .query((r, n) -> {
                    var id = r.getLong("id");
                    var ceiling = r.getBigDecimal("ceiling");
                    var unit = r.getString("every_unit");
                    return new Kept(
                            id,
                            new SalesAgreement(
                                    r.getString("number"),
                                    SalesAgreement.Kind.valueOf(r.getString("kind")),
                                    SalesAgreement.State.valueOf(r.getString("state")),
                                    r.getString("code"),
                                    r.getObject("valid_from", LocalDate.class),
                                    r.getObject("valid_until", LocalDate.class),
                                    Optional.ofNullable(ceiling).map(company::money),
                                    unit == null
                                            ? Optional.empty()
                                            : Optional.of(new Recurrence(
                                                    r.getInt("every_count"), Recurrence.Unit.valueOf(unit))),
                                    r.getInt("made"),
                                    company.currency(),
                                    lines(id),
                                    schedule(id)),
                            r.getString("po"),
                            r.getString("remark"),
                            r.getString("details"),
                            r.getString("author"),
                            r.getObject("written_on", LocalDate.class),
                            r.getLong("version"));
                })
                .optional();
    }

    private List<SalesAgreement.Line> lines(long id) {
        return jdbc.sql("select line_no, item_code, description, quantity, unit_price, discount_percent from"
                        + " sales_agreement_line where agreement_id = ? order by line_no")
                .param(id)
                .query((r, n) -> new SalesAgreement.Line(
                        r.getInt(1),
                        r.getString(2),
                        r.getString(3),
                        new Quantity(r.getBigDecimal(4)),
                        new Price(r.getBigDecimal(5), r.getBigDecimal(6))))
                .list();
    }

    private List<SalesAgreement.Call> schedule(long id) {
        return jdbc.sql(
                        "select due_on, line_no, quantity from sales_agreement_call where agreement_id = ? and order_id is null"
                                + " order by due_on, line_no")
                .param(id)
                .query((r, n) -> new SalesAgreement.Call(
                        r.getObject(1, LocalDate.class), r.getInt(2), new Quantity(r.getBigDecimal(3))))
                .list();
    }

    private record Part(int line, BigDecimal quantity, BigDecimal price, BigDecimal discount) {}

    /**
     * What orders took of it, less what was cancelled of them; declined ones take nothing.
     *
     * @param without an order that is left out of the count, or empty
     */
    SalesAgreement.Taken taken(long id, String without) {
        var parts = jdbc.sql("""
            select l.source_line, l.quantity - coalesce((select sum(x.quantity) from cancellation c
            join cancellation_line x on x.cancellation_id = c.id
                where c.order_id = l.order_id and x.order_line_no = l.line_no), 0), l.unit_price, l.discount_percent
            from sales_order o join sales_order_line l on l.order_id = o.id
            where o.agreement_id = ? and l.removed = false and l.source_line is not null and o.state <> 'DECLINED'
                and o.number <> ?\
            """)
                .params(id, without)
                .query((r, n) -> new Part(r.getInt(1), r.getBigDecimal(2), r.getBigDecimal(3), r.getBigDecimal(4)))
                .list();
        var quantities = new HashMap<Integer, Quantity>();
        var net = Money.zero(company.currency());
        for (var part : parts) {
            var quantity = new Quantity(part.quantity());
            quantities.merge(part.line(), quantity, Quantity::plus);
            net = net.plus(new Price(part.price(), part.discount()).net(quantity, company.currency()));
        }
        return new SalesAgreement.Taken(quantities, net);
    }
}
