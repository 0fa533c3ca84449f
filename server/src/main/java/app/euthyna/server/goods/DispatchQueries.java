package app.euthyna.server.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.order.OrderState;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface DispatchQueries {
    StatelessSession session();

    record FallsRow(String number, String item, BigDecimal onHand, BigDecimal minStock) {}

    record LineRow(int lineNo, int orderLineNo, String item, String itemName, BigDecimal quantity, BigDecimal cost) {}

    record HeaderRow(
            String number,
            String order,
            String customerName,
            String siteName,
            Dispatch.State state,
            OrderState orderState,
            LocalDate stagedOn,
            LocalDate departedOn,
            long version,
            String carrier,
            String carrierReference,
            String carrierFailure) {}

    record StockRow(
            String item,
            String site,
            BigDecimal onHand,
            BigDecimal reserved,
            BigDecimal stockValue,
            BigDecimal quantity) {}

    @HQL("""
            select t.number, i.code, h.onHand - t.quantity, i.minStock
            from (select d.number as number, d.siteId as siteId, l.itemId as itemId, sum(l.quantity) as quantity from DispatchEntity d join
                DispatchLineEntity l on l.dispatchId = d.id where :numbers contains d.number group by d.number,
                d.siteId, l.itemId) t
            join ItemEntity i on i.id = t.itemId
            join ShelfEntity h on h.itemId = t.itemId and h.siteId = t.siteId
            where i.minStock > 0 and h.onHand - t.quantity < i.minStock
            order by i.code
            """)
    List<FallsRow> falls(String[] numbers);

    @HQL("""
            select l.lineNo, l.orderLineNo, i.code, i.name, l.quantity, l.cost
            from DispatchEntity d
            join DispatchLineEntity l on l.dispatchId = d.id
            join ItemEntity i on i.id = l.itemId
            where d.number = :number
            order by l.lineNo
            """)
    List<LineRow> lines(String number);

    @HQL("""
            select d.number, o.number, c.name, s.name, d.state, o.state, d.stagedOn, d.departedOn, d.version, d.carrier,
                d.carrierReference, d.carrierFailure
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            join CustomerEntity c on c.id = o.customerId
            join SiteEntity s on s.id = d.siteId
            where d.number = :number
            """)
    Optional<HeaderRow> header(String number);

    @HQL("""
            select i.code, s.code, h.onHand, h.reserved, h.stockValue, coalesce((select sum(p.quantity -
                coalesce((select sum(o.quantity) from ReturnOutcomeEntity o where o.partId = p.id), 0)) from
                ReturnLineEntity l join ReturnPartEntity p on p.returnLineId = l.id where l.itemId = h.itemId and
                l.siteId = h.siteId), 0)
            from ShelfEntity h
            join ItemEntity i on i.id = h.itemId
            join SiteEntity s on s.id = h.siteId
            where i.code = :code
            order by s.id
            """)
    List<StockRow> stock(String code);

    record HeldRow(String order, int lineNo, BigDecimal reserved, LocalDate requestedOn, long clearing) {}

    record FallRow(String item, BigDecimal onHand, BigDecimal minStock) {}

    @HQL("""
            select o.number, k.lineNo, k.reserved, k.requestedOn, k.clearing
            from StockClaimEntity k
            join OrderEntity o on o.id = k.orderId
            where k.itemId = :itemId and k.siteId = :siteId and k.reserved > 0
            """)
    List<HeldRow> held(long itemId, long siteId);

    @HQL("""
            update DispatchEntity d
            set d.carrier = :carrier, d.carrierReference = :carrierReference, d.carrierFailure = :carrierFailure
            where d.number = :number
            """)
    int book(String carrier, String carrierReference, String carrierFailure, String number);

    @HQL("""
            select i.code, h.onHand - t.quantity, i.minStock
            from (select d.siteId as siteId, l.itemId as itemId, sum(l.quantity) as quantity from DispatchEntity d join
                DispatchLineEntity l on l.dispatchId = d.id where d.number = :number and d.state = 'STAGED' group by
                d.siteId, l.itemId) t
            join ItemEntity i on i.id = t.itemId
            join ShelfEntity h on h.itemId = t.itemId and h.siteId = t.siteId
            where i.minStock > 0 and h.onHand - t.quantity < i.minStock
            order by i.code
            """)
    List<FallRow> fallsOf(String number);

    @HQL("select d.version from DispatchEntity d where d.number = :number")
    Long version(String number);

    @HQL("select o.number from DispatchEntity d join OrderEntity o on o.id = d.orderId where d.number = :number")
    Optional<String> orderOf(String number);

    record NoteRow(String number, Dispatch.State state, String order, OrderState orderState) {}

    @HQL("""
            select d.number, d.state, o.number, o.state
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            where :ids contains d.id
            order by d.id
            """)
    List<NoteRow> notes(Long[] ids);

    record QueueRow(
            String order,
            int lineNo,
            String customerName,
            String site,
            LocalDate requestedOn,
            BigDecimal reserved,
            BigDecimal waiting,
            long version) {}

    @HQL("""
            select o.number, k.lineNo, c.name, s.code, k.requestedOn, k.reserved, k.waiting, o.version
            from StockClaimEntity k
            join OrderEntity o on o.id = k.orderId
            join CustomerEntity c on c.id = o.customerId
            join SiteEntity s on s.id = k.siteId
            join ItemEntity i on i.id = k.itemId
            where i.code = :item and (k.reserved > 0 or k.waits = true)
            order by k.siteId, k.requestedOn, k.clearing, k.orderId, k.lineNo
            fetch first 300 rows only
            """)
    List<QueueRow> queue(String item);

    @HQL("""
            select o.number, k.lineNo, c.name, s.code, k.requestedOn, k.reserved, k.waiting, o.version
            from StockClaimEntity k
            join OrderEntity o on o.id = k.orderId
            join CustomerEntity c on c.id = o.customerId
            join SiteEntity s on s.id = k.siteId
            where o.number = :order and k.lineNo = :line
            order by k.siteId, k.requestedOn, k.clearing
            """)
    List<QueueRow> placesOf(String order, int line);

    record StagedRow(String number, long version) {}

    /** Those of some that are staged and have not left. */
    @HQL("""
            select d.number, d.version
            from DispatchEntity d
            where :numbers contains d.number and d.state = 'STAGED'
            order by d.id
            """)
    List<StagedRow> staged(String[] numbers);
}
