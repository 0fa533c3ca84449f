package app.euthyna.server.check;

import app.euthyna.core.flow.Dispatch;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ReviewQueries {
    StatelessSession session();

    record DispatchRow(String number, Dispatch.State state, LocalDate departedOn, long version) {}

    record InvoiceRow(
            long id,
            String number,
            LocalDate invoicedOn,
            BigDecimal gross,
            BigDecimal openAmount,
            long version,
            boolean reversed) {}

    record ReturnRow(long id, String number, LocalDate authorisedOn, long version, String state) {}

    record CreditNoteRow(
            long id, String number, LocalDate creditedOn, BigDecimal gross, LocalDate reversedOn, long version) {}

    record HistoryRow(
            LocalDate happenedOn, String byUser, String documentKind, String documentNumber, String sentence) {}

    record TotalsRow(Long held, Long count, BigDecimal openGross, Long awaiting) {}

    record ReasonCountRow(String checkCode, Long count) {}

    record WithReasonCountRow(long orderId, LocalDate since, String checkCode, String severity, String brief) {}

    @HQL("""
            select d.number, d.state, coalesce(d.departedOn, d.stagedOn), d.version
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            where o.number = :number
            order by d.id
            """)
    List<DispatchRow> dispatches(String number);

    @HQL("""
            select distinct i.id, i.number, i.invoicedOn, i.gross, i.openAmount, i.version, i.reversedOn is not null
            from InvoiceEntity i
            join InvoiceLineEntity l on l.invoiceId = i.id
            join OrderEntity o on o.id = l.rootOrderId
            where o.number = :number
            order by i.id
            """)
    List<InvoiceRow> invoices(String number);

    @HQL("""
            select distinct g.id, g.number, g.authorisedOn, g.version, case when g.inspecting then 'IN_INSPECTION'
                when g.expects then 'EXPECTED' when g.receivedOn is null then 'WITHDRAWN' else 'RECEIVED' end
            from ReturnEntity g
            join ReturnLineEntity l on l.returnId = g.id
            join OrderEntity o on o.id = l.rootOrderId
            where o.number = :number
            order by g.id
            """)
    List<ReturnRow> returns(String number);

    @HQL("""
            select distinct k.id, k.number, k.creditedOn, k.gross, k.reversedOn, k.version
            from CreditNoteEntity k
            join CreditNoteLineEntity l on l.creditNoteId = k.id
            join OrderEntity o on o.id = l.rootOrderId
            where o.number = :number
            order by k.id
            """)
    List<CreditNoteRow> creditNotes(String number);

    @HQL("""
            select h.happenedOn, h.byUser, h.documentKind, h.documentNumber, h.sentence
            from HistoryEntity h
            join OrderEntity o on o.id = h.orderId
            where o.number = :number
            order by h.moment
            """)
    List<HistoryRow> history(String number);

    @HQL("""
            select coalesce(sum(case when o.state = 'HELD' then 1 else 0 end), 0), count(*),
                coalesce(sum(x.openGross), 0), coalesce(sum(case when o.state = 'AWAITING_APPROVAL' then 1 else 0
                end), 0)
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.reviewable = true
            """)
    TotalsRow totals();

    @HQL("""
            select f.checkCode, count(*)
            from OpenOrderEntity x
            join FindingEntity f on f.orderId = x.orderId
            where x.reviewable = true and f.state = 'OPEN'
            group by f.checkCode
            """)
    List<ReasonCountRow> reasons();

    @HQL("""
            select f.orderId, f.since, f.checkCode, f.severity, f.brief
            from FindingEntity f
            where :ids contains f.orderId and f.state = 'OPEN'
            order by f.orderId, case f.severity when 'STOP' then 0 else 1 end, f.id
            """)
    List<WithReasonCountRow> reasonsOf(Long[] ids);

    @HQL("select f from FindingEntity f where f.orderId = :order order by f.id")
    List<FindingEntity> findings(long order);

    @HQL("select count(*) from FindingEntity f where f.orderId = :order and f.state = 'OPEN'")
    long openFindings(long order);
}
