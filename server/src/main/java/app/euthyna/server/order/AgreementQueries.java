package app.euthyna.server.order;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface AgreementQueries {
    StatelessSession session();

    record CallRow(LocalDate dueOn, int lineNo, BigDecimal quantity, String order) {}

    record OrderedRow(String number, OrderState state, LocalDate orderedOn, BigDecimal net) {}

    record ChangeRow(LocalDate changedOn, String changedBy, String sentence) {}

    @HQL("""
            select k.dueOn, k.lineNo, k.quantity, o.number
            from SalesAgreementCallEntity k
            left join OrderEntity o on o.id = k.orderId
            where k.agreementId = :agreementId
            order by k.dueOn, k.lineNo
            """)
    List<CallRow> calls(long agreementId);

    @HQL("""
            select so.number, so.state, so.orderedOn, so.net
            from OrderEntity so
            where so.agreementId = :agreementId
            order by so.id desc fetch first 200 rows only
            """)
    List<OrderedRow> ordersOf(Long agreementId);

    @HQL("""
            select sac.changedOn, sac.changedBy, sac.sentence
            from SalesAgreementChangeEntity sac
            where sac.agreementId = :agreementId
            order by sac.id desc fetch first 200 rows only
            """)
    List<ChangeRow> changes(long agreementId);

    record LinesRow(
            int lineNo,
            String itemCode,
            String description,
            BigDecimal quantity,
            BigDecimal unitPrice,
            BigDecimal discountPercent) {}

    record ScheduleRow(LocalDate dueOn, int lineNo, BigDecimal quantity) {}

    record TakenRow(Integer sourceLine, BigDecimal quantity, BigDecimal unitPrice, BigDecimal discountPercent) {}

    @HQL("""
            select sal.lineNo, sal.itemCode, sal.description, sal.quantity, sal.unitPrice, sal.discountPercent
            from SalesAgreementLineEntity sal
            where sal.agreementId = :agreementId
            order by sal.lineNo
            """)
    List<LinesRow> lines(long agreementId);

    @HQL("""
            select sac.dueOn, sac.lineNo, sac.quantity
            from SalesAgreementCallEntity sac
            where sac.agreementId = :agreementId and sac.orderId is null
            order by sac.dueOn, sac.lineNo
            """)
    List<ScheduleRow> schedule(long agreementId);

    @HQL("""
            select l.sourceLine, l.quantity - coalesce((select sum(x.quantity) from CancellationEntity c join
                CancellationLineEntity x on x.cancellationId = c.id where c.orderId = l.orderId and x.orderLineNo =
                l.lineNo), 0), l.unitPrice, l.discountPercent
            from OrderEntity o
            join OrderLineEntity l on l.orderId = o.id
            where o.agreementId = :agreementId and l.removed = false and l.sourceLine is not null
            and o.state <> 'DECLINED' and o.number <> :number
            """)
    List<TakenRow> taken(Long agreementId, String number);

    @HQL("""
            update SalesAgreementEntity sa
            set sa.po = :po, sa.validFrom = :validFrom, sa.validUntil = :validUntil, sa.ceiling = :ceiling,
                sa.everyCount = :everyCount, sa.everyUnit = :everyUnit, sa.nextDue = :nextDue, sa.net = :net,
                sa.remark = :remark, sa.details = :details
            where sa.id = :id
            """)
    int change(
            String po,
            LocalDate validFrom,
            LocalDate validUntil,
            BigDecimal ceiling,
            Integer everyCount,
            String everyUnit,
            LocalDate nextDue,
            BigDecimal net,
            String remark,
            String details,
            long id);

    @HQL("delete from SalesAgreementLineEntity sal where sal.agreementId = :agreementId")
    int removeLines(long agreementId);

    @HQL("""
            delete
            from SalesAgreementCallEntity sac
            where sac.agreementId = :agreementId and sac.orderId is null
            """)
    int removeOpenCalls(long agreementId);

    @HQL("update SalesAgreementEntity sa set sa.state = :state, sa.nextDue = null where sa.id = :id")
    int close(String state, long id);

    @HQL("update SalesAgreementEntity sa set sa.state = 'ORDERED' where sa.id = :id")
    int ordered(long id);

    @HQL("""
            update SalesAgreementCallEntity sac
            set sac.orderId = :orderId
            where sac.agreementId = :agreementId and sac.dueOn = :dueOn and sac.lineNo = :lineNo
            """)
    int called(Long orderId, long agreementId, LocalDate dueOn, int lineNo);

    @HQL("""
            update SalesAgreementEntity sa
            set sa.nextDue = (select min(sac.dueOn) from SalesAgreementCallEntity sac where sac.agreementId =
                :agreementId and sac.orderId is null)
            where sa.id = :agreementId
            """)
    int nextOpenCall(long agreementId);

    @HQL("update SalesAgreementEntity sa set sa.made = :made, sa.nextDue = :nextDue where sa.id = :id")
    int advance(int made, LocalDate nextDue, long id);

    @HQL("update SalesAgreementEntity sa set sa.version = sa.version + 1 where sa.id = :id")
    int moveVersion(long id);

    @HQL("select q from SalesAgreementEntity q where q.number = :number")
    Optional<SalesAgreementEntity> byNumber(String number);

    @HQL("select q from SalesAgreementEntity q where q.id = :id")
    Optional<SalesAgreementEntity> byId(long id);

    record ListedRow(
            long id,
            String number,
            String kind,
            String state,
            String customer,
            String customerName,
            String po,
            LocalDate validFrom,
            LocalDate validUntil,
            BigDecimal net,
            LocalDate nextDue) {}

    /** By kind, newest first; what is null does not matter. */
    default List<ListedRow> page(
            SalesAgreement.Kind kind, SalesAgreement.State state, String customer, LocalDate due, Long before) {
        return Listing.of(session(), ListedRow.class, """
                        select q.id, q.number, q.kind, q.state, c.code, c.name, q.po, q.validFrom, q.validUntil, q.net,
                            q.nextDue
                        from SalesAgreementEntity q
                        join CustomerEntity c on c.id = q.customerId
                        """)
                .where("q.kind = :kind", kind == null ? null : kind.name())
                .where("q.state = :state", state == null ? null : state.name())
                .where("c.code = :customer", customer)
                .where("q.state = 'OPEN' and q.nextDue <= :due", due)
                .where("q.id < :before", before)
                .then("order by q.id desc")
                .page();
    }
}
