package app.euthyna.server.order;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.server.order.DocumentSources.Source;
import app.euthyna.server.order.DocumentSources.SourceLine;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Documents that an order can be started from. */
@Transactional
interface SourceQueries {
    StatelessSession session();

    /** A document that does not say what kind of order it leads to. */
    record Head(String customer, String po, LocalDate on) {
        Source as(OrderKind kind) {
            return new Source(customer, po, kind, on);
        }
    }

    @HQL("""
            select c.code, o.po, o.kind, o.orderedOn
            from OrderEntity o
            join CustomerEntity c on c.id = o.customerId
            where o.number = :number
            """)
    Optional<Source> order(String number);

    @HQL("""
            select c.code, o.po, o.kind, coalesce(d.departedOn, d.stagedOn)
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            join CustomerEntity c on c.id = o.customerId
            where d.number = :number
            """)
    Optional<Source> dispatch(String number);

    @HQL("""
            select c.code, (select min(o.po) from ReturnLineEntity l join OrderEntity o on o.id = l.rootOrderId
                where l.returnId = g.id), g.authorisedOn
            from ReturnEntity g
            join CustomerEntity c on c.id = g.customerId
            where g.number = :number
            """)
    Optional<Head> goodsReturn(String number);

    @HQL("""
            select c.code, q.po, q.writtenOn
            from SalesAgreementEntity q
            join CustomerEntity c on c.id = q.customerId
            where q.number = :number
            """)
    Optional<Head> agreement(String number);

    @HQL("""
            select c.code, (select min(o.po) from InvoiceLineEntity l join OrderEntity o on o.id = l.rootOrderId
                where l.invoiceId = i.id), i.invoicedOn
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where i.number = :number
            """)
    Optional<Head> invoice(String number);

    @HQL("""
            select l.itemCode, l.quantity, l.unitPrice, l.discountPercent, l.lineNo, l.kind, l.description
            from OrderLineEntity l
            join OrderEntity o on o.id = l.orderId
            where o.number = :number and l.removed = false
            order by l.lineNo
            """)
    List<SourceLine> orderLines(String number);

    @HQL("""
            select s.itemCode, l.quantity, s.unitPrice, s.discountPercent, l.lineNo, s.kind, s.description
            from DispatchLineEntity l
            join DispatchEntity d on d.id = l.dispatchId
            join OrderLineEntity s on s.orderId = l.rootOrderId and s.lineNo = l.orderLineNo
            where d.number = :number
            order by l.lineNo
            """)
    List<SourceLine> dispatchLines(String number);

    /** A line of a return, which bears no price. */
    record ReturnedLine(String item, BigDecimal quantity, int line, LineKind kind, String text) {
        SourceLine as(BigDecimal price, BigDecimal discount) {
            return new SourceLine(item, quantity, price, discount, line, kind, text);
        }
    }

    @HQL("""
            select s.itemCode, case when exists (select 1 from ReturnPartEntity p where p.returnLineId = l.id)
                then coalesce((select sum(p.quantity) from ReturnPartEntity p where p.returnLineId = l.id), 0)
                - coalesce((select sum(x.quantity) from ReturnOutcomeEntity x
                join ReturnPartEntity p on p.id = x.partId where p.returnLineId = l.id and x.kind = 'SEND_BACK'), 0)
                else l.authorised end,
                l.lineNo, s.kind, s.description
            from ReturnLineEntity l
            join ReturnEntity g on g.id = l.returnId
            join OrderLineEntity s on s.orderId = l.rootOrderId and s.lineNo = l.orderLineNo
            where g.number = :number
            order by l.lineNo
            """)
    List<ReturnedLine> returnLines(String number);

    /** A line that does not say of what kind it is. */
    record PricedLine(String item, BigDecimal quantity, BigDecimal price, BigDecimal discount, int line, String text) {
        SourceLine as(LineKind kind) {
            return new SourceLine(item, quantity, price, discount, line, kind, text);
        }
    }

    @HQL("""
            select l.itemCode, l.quantity, l.unitPrice, l.discountPercent, l.lineNo, l.description
            from SalesAgreementLineEntity l
            join SalesAgreementEntity q on q.id = l.agreementId
            where q.number = :number
            order by l.lineNo
            """)
    List<PricedLine> agreementLines(String number);

    @HQL("""
            select l.itemCode, l.quantity, l.unitPrice, l.discountPercent, l.lineNo, l.description
            from InvoiceLineEntity l
            join InvoiceEntity i on i.id = l.invoiceId
            where i.number = :number
            order by l.lineNo
            """)
    List<PricedLine> invoiceLines(String number);
}
