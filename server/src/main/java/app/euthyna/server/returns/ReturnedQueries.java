package app.euthyna.server.returns;

import java.math.BigDecimal;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What came back of orders, and what was credited of their invoices. */
@Transactional
interface ReturnedQueries {
    StatelessSession session();

    @HQL("select distinct l.returnId from ReturnLineEntity l where :orders contains l.rootOrderId")
    List<Long> returnsOf(Long[] orders);

    @HQL("""
            select o
            from ReturnLineEntity l
            join ReturnPartEntity p on p.returnLineId = l.id
            join ReturnOutcomeEntity o on o.partId = p.id
            where :returns contains l.returnId
            order by o.id
            """)
    List<ReturnOutcomeEntity> outcomes(Long[] returns);

    record PartRow(ReturnPartEntity part, String invoice) {}

    @HQL("""
            select p, i.number
            from ReturnLineEntity l
            join ReturnPartEntity p on p.returnLineId = l.id
            left join InvoiceEntity i on i.id = p.invoiceId
            where :returns contains l.returnId
            order by p.returnLineId, p.partNo
            """)
    List<PartRow> parts(Long[] returns);

    record LineRow(ReturnLineEntity line, String order, String dispatch, String invoice, String item, String site) {}

    @HQL("""
            select l, o.number, d.number, i.number, t.code, s.code
            from ReturnLineEntity l
            join OrderEntity o on o.id = l.rootOrderId
            join DispatchEntity d on d.id = l.dispatchId
            join ItemEntity t on t.id = l.itemId
            join SiteEntity s on s.id = l.siteId
            left join InvoiceEntity i on i.id = l.invoiceId
            where :returns contains l.returnId
            order by l.returnId, l.lineNo
            """)
    List<LineRow> lines(Long[] returns);

    record HeaderRow(ReturnEntity goods, String customer) {}

    @HQL("""
            select g, c.code
            from ReturnEntity g
            join CustomerEntity c on c.id = g.customerId
            where :returns contains g.id
            order by g.id
            """)
    List<HeaderRow> headers(Long[] returns);

    record CreditNoteRow(CreditNoteEntity note, String customer, String invoice) {}

    @HQL("""
            select k, c.code, i.number
            from CreditNoteEntity k
            join CustomerEntity c on c.id = k.customerId
            join InvoiceEntity i on i.id = k.invoiceId
            where :invoices contains k.invoiceId
            order by k.id
            """)
    List<CreditNoteRow> creditNotes(Long[] invoices);

    @HQL("""
            select v
            from CreditNoteVatEntity v
            where :notes contains v.creditNoteId
            order by v.creditNoteId, v.vatCategory, v.vatRate
            """)
    List<CreditNoteVatEntity> bands(Long[] notes);

    record CreditedRow(CreditNoteLineEntity line, String order, String goodsReturn) {}

    @HQL("""
            select l, o.number, g.number
            from CreditNoteLineEntity l
            join OrderEntity o on o.id = l.rootOrderId
            left join ReturnEntity g on g.id = l.returnId
            where :notes contains l.creditNoteId
            order by l.creditNoteId, l.lineNo
            """)
    List<CreditedRow> credited(Long[] notes);

    record TakenBackRow(String invoice, int invoiceLineNo, BigDecimal ahead, BigDecimal deferred) {}

    @HQL("""
            select i.number, l.invoiceLineNo, l.ahead, l.deferred
            from CreditNoteLineEntity l
            join CreditNoteEntity k on k.id = l.creditNoteId
            join InvoiceEntity i on i.id = k.invoiceId
            where :invoices contains k.invoiceId and k.reversedOn is null and (l.ahead <> 0 or l.deferred <> 0)
            order by l.creditNoteId, l.lineNo
            """)
    List<TakenBackRow> takenBack(Long[] invoices);
}
