package app.euthyna.server.goods;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ShelfQueries {
    /** So many of a queue are looked at together. */
    int AT_ONCE = 50;

    StatelessSession session();

    record ClaimRow(
            int line, String item, String site, BigDecimal reserved, BigDecimal waiting, LocalDate requestedOn) {}

    @HQL("""
            update StockClaimEntity sc
            set sc.reserved = sc.reserved + :quantity, sc.waiting = sc.waiting - :quantity, sc.waits = sc.waiting > :quantity
            where sc.orderId = :orderId and sc.lineNo = :lineNo
            """)
    int waitedFor(BigDecimal quantity, long orderId, int lineNo);

    @HQL("""
            update StockClaimEntity sc
            set sc.reserved = sc.reserved + :reserved
            where sc.orderId = :orderId and sc.lineNo = :lineNo
            """)
    int claim(BigDecimal reserved, long orderId, int lineNo);

    @HQL("""
            select c.lineNo, i.code, s.code, c.reserved, c.waiting, c.requestedOn
            from StockClaimEntity c
            join ItemEntity i on i.id = c.itemId
            join SiteEntity s on s.id = c.siteId
            where c.orderId = :orderId
            """)
    List<ClaimRow> claims(long orderId);

    @HQL("""
            update StockClaimEntity sc
            set sc.waiting = :waiting, sc.waits = :waits, sc.requestedOn = :requestedOn, sc.itemId = :itemId,
                sc.siteId = :siteId
            where sc.orderId = :orderId and sc.lineNo = :lineNo
            """)
    int wait(
            BigDecimal waiting,
            boolean waits,
            LocalDate requestedOn,
            long itemId,
            long siteId,
            long orderId,
            int lineNo);

    record OrderRow(long id, String number, long customerId) {}

    @HQL("""
            select sc.orderId, sc.lineNo, sc.waiting, sc.requestedOn, sc.clearing
            from StockClaimEntity sc
            where sc.itemId = :itemId and sc.siteId = :siteId and sc.waits = true
            order by sc.itemId, sc.siteId, sc.waits, sc.requestedOn, sc.clearing, sc.orderId, sc.lineNo
            fetch first\s""" + AT_ONCE + " rows only")
    List<WaitingLines.Row> head(long itemId, long siteId);

    @HQL("select so.id, so.number, so.customerId from OrderEntity so where :orders contains so.id")
    List<OrderRow> orders(Long[] orders);

    @HQL("""
            select count(*)
            from ShelfEntity s
            where s.itemId = :itemId and s.siteId = :siteId and s.onHand > s.reserved
            """)
    long free(long itemId, long siteId);

    record PlaceRow(long itemId, long siteId) {}

    record QueuedRow(long id, String queuedBy) {}

    @HQL("select distinct oq.itemId, oq.siteId from OfferQueueEntity oq where oq.queuedAt < :queuedAt")
    List<PlaceRow> leftBehind(Instant queuedAt);

    @HQL("""
            select oq.id, oq.queuedBy
            from OfferQueueEntity oq
            where oq.itemId = :itemId and oq.siteId = :siteId
            order by oq.id
            """)
    List<QueuedRow> queued(long itemId, long siteId);

    @HQL("delete from OfferQueueEntity oq where :ids contains oq.id")
    int removeQueued(Long[] ids);

    @HQL("select s.id from ShelfEntity s where s.siteId = :site and s.itemId = :item")
    Optional<Long> shelf(long site, long item);

    @HQL("select d from DispatchEntity d where d.number = :number")
    DispatchEntity dispatch(String number);

    @HQL("delete from DispatchLineEntity l where l.dispatchId = :dispatch")
    int removeLines(long dispatch);

    @HQL("update DispatchLineEntity l set l.reversedOn = :on where l.dispatchId = :dispatch")
    int takeBackLines(LocalDate on, long dispatch);

    @HQL("select coalesce(o.clearing, 0) from OrderEntity o where o.id = :order")
    long clearing(long order);

    @HQL("select k from StockClaimEntity k where :orders contains k.orderId and k.reserved > 0")
    List<StockClaimEntity> reserved(Long[] orders);

    record LeftRow(String dispatch, DispatchLineEntity line) {}

    /** The lines of orders that have left, also those that were taken back since. */
    @HQL("""
            select d.number, l
            from DispatchLineEntity l
            join DispatchEntity d on d.id = l.dispatchId
            where :orders contains l.rootOrderId and l.departedOn is not null
            """)
    List<LeftRow> left(Long[] orders);

    record DispatchedRow(DispatchEntity dispatch, DispatchLineEntity line, String order, String site, String item) {}

    @HQL("""
            select d, l, o.number, s.code, i.code
            from DispatchEntity d
            join DispatchLineEntity l on l.dispatchId = d.id
            join OrderEntity o on o.id = d.orderId
            join SiteEntity s on s.id = d.siteId
            join ItemEntity i on i.id = l.itemId
            where :orders contains d.orderId
            order by d.orderId, coalesce(d.departedOn, d.stagedOn), d.id, l.lineNo
            """)
    List<DispatchedRow> dispatched(Long[] orders);
}
