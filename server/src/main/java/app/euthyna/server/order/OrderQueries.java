package app.euthyna.server.order;

import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface OrderQueries {
    StatelessSession session();

    record CarriedRow(String order, String details) {}

    @HQL("""
            select o.number, d.details
            from DocumentDetailsEntity d
            join OrderEntity o on o.id = d.orderId
            where d.documentKind = :documentKind and d.documentNumber = :documentNumber
            order by o.id
            """)
    List<CarriedRow> carried(String documentKind, String documentNumber);

    record VersionRow(int versionNo, LocalDate changedOn, String changedBy, String differences) {}

    @HQL("""
            select v.versionNo, v.changedOn, v.changedBy, v.differences
            from OrderVersionEntity v
            join OrderEntity o on o.id = v.orderId
            where o.number = :number
            order by v.versionNo desc
            """)
    List<VersionRow> versions(String number);

    @HQL("""
            select o.number
            from OrderEntity o
            join CustomerEntity c on c.id = o.customerId
            where c.code = :code and o.importReference = :importReference
            """)
    Optional<String> takenIn(String code, String importReference);

    @HQL("""
            select c.code
            from ReturnEntity g
            join CustomerEntity c on c.id = g.customerId
            where g.number = :number and g.withdrawn = false
            """)
    Optional<String> customerOfReturn(String number);

    @HQL("""
            select c.code
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            join CustomerEntity c on c.id = o.customerId
            where d.number = :number and d.state = 'DEPARTED'
            """)
    Optional<String> customerOfDeparted(String number);

    record ItemQuantity(String item, BigDecimal quantity) {}

    /** Of a return what came and is not sent back, or is authorised to come. */
    @HQL("""
            select i.code, sum(greatest(l.authorised, coalesce((select sum(p.quantity) from ReturnPartEntity p
                where p.returnLineId = l.id), 0)) - coalesce((select sum(x.quantity) from ReturnOutcomeEntity x
                join ReturnPartEntity p on p.id = x.partId
                where p.returnLineId = l.id and x.kind = 'SEND_BACK'), 0))
            from ReturnLineEntity l
            join ReturnEntity g on g.id = l.returnId
            join ItemEntity i on i.id = l.itemId
            where g.number = :number
            group by i.code
            """)
    List<ItemQuantity> ofReturn(String number);

    @HQL("""
            select s.itemCode, sum(l.quantity)
            from DispatchLineEntity l
            join DispatchEntity d on d.id = l.dispatchId
            join OrderLineEntity s on s.orderId = l.rootOrderId and s.lineNo = l.orderLineNo
            where d.number = :number
            group by s.itemCode
            """)
    List<ItemQuantity> ofDispatch(String number);

    /** What replacement orders took of a document, less what was cancelled of them. */
    @HQL("""
            select l.itemCode, sum(l.quantity - coalesce((select sum(x.quantity) from CancellationLineEntity x
                where x.rootOrderId = l.orderId and x.orderLineNo = l.lineNo), 0))
            from ReplacementEntity r
            join OrderEntity o on o.id = r.orderId
            join OrderLineEntity l on l.orderId = o.id
            where r.documentNumber = :number and r.orderId <> :except and l.removed = false
            and o.state not in ('DRAFT', 'CANCELLED', 'DECLINED')
            group by l.itemCode
            """)
    List<ItemQuantity> replaced(String number, long except);

    @HQL("select o.version from OrderEntity o where o.number = :number")
    Optional<Long> version(String number);

    @HQL("select o from OrderEntity o where o.number = :number")
    Optional<OrderEntity> header(String number);

    @HQL("select l from OrderLineEntity l where l.orderId = :order order by l.lineNo")
    List<OrderLineEntity> lines(long order);

    @HQL("update OrderEntity o set o.version = o.version + 1 where o.number = :number")
    int moveVersion(String number);

    /** Notes since when an order takes its PO, unless it is noted. */
    @HQL("update OrderEntity o set o.poTaken = :moment where o.id = :order and o.poTaken is null")
    int takePo(long order, long moment);

    @HQL("update OrderEntity o set o.state = :state where o.id = :order")
    int setState(long order, OrderState state);

    /** An order's place among those that wait for stock is that of its first clearing. */
    @HQL("update OrderEntity o set o.state = 'CLEARED', o.clearing = coalesce(o.clearing, :moment) where o.id = :order")
    int setCleared(long order, long moment);

    @HQL("""
            select distinct o.author
            from OrderEntity o
            where o.customerId = :customer and (o.id = :family or o.splitOf = :family)
            """)
    List<String> authors(long customer, long family);

    @HQL("select max(v.changedOn) from OrderVersionEntity v where v.orderId = :order")
    LocalDate lastVersion(long order);

    @HQL("select count(*) from OrderVersionEntity v where v.orderId = :order")
    long versionsOf(long order);

    @HQL("select o from OrderEntity o where :ids contains o.id and o.details is not null")
    List<OrderEntity> withDetails(Long[] ids);

    record OrderRow(
            long id,
            String number,
            OrderState state,
            String customer,
            String customerName,
            String po,
            LocalDate orderedOn,
            LocalDate requestedOn,
            BigDecimal gross) {}

    /** Orders, newest first; what is null does not matter. */
    default List<OrderRow> page(String customer, Long before) {
        return Listing.of(session(), OrderRow.class, """
                        select o.id, o.number, o.state, c.code, c.name, o.po, o.orderedOn, o.requestedOn, o.gross
                        from OrderEntity o
                        join CustomerEntity c on c.id = o.customerId
                        """)
                .where("c.code = :customer", customer)
                .where("o.id < :before", before)
                .then("order by o.id desc")
                .page();
    }

    @HQL("""
            select o.number
            from ReturnEntity g
            join ReturnLineEntity l on l.returnId = g.id
            join OrderEntity o on o.id = l.rootOrderId
            where g.number = :number
            order by l.lineNo fetch first 1 rows only
            """)
    String firstOrderOf(String number);

    record HeaderRow(OrderEntity order, String customer, String site) {}

    @HQL("""
            select o, c.code, s.code
            from OrderEntity o
            join CustomerEntity c on c.id = o.customerId
            join SiteEntity s on s.id = o.siteId
            where :numbers contains o.number
            """)
    List<HeaderRow> headers(String[] numbers);

    @HQL(
            "select l from OrderLineEntity l where :orders contains l.orderId and l.removed = false order by l.orderId, l.lineNo")
    List<OrderLineEntity> linesOf(Long[] orders);

    record CancelledRow(CancellationEntity cancellation, CancellationLineEntity line, String order) {}

    @HQL("""
            select c, l, o.number
            from CancellationEntity c
            join CancellationLineEntity l on l.cancellationId = c.id
            join OrderEntity o on o.id = c.orderId
            where :orders contains c.orderId
            order by c.orderId, c.id, l.orderLineNo
            """)
    List<CancelledRow> cancelled(Long[] orders);
}
