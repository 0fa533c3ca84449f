package app.euthyna.server.check;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface RecheckQueries {
    StatelessSession session();

    record LeftRow(String item, BigDecimal onHand) {}

    @HQL("""
            select count(*)
            from FindingEntity f
            join OrderEntity o on o.id = f.orderId
            where o.number = :number and f.checkCode = 'unreserved' and f.state in ('OPEN', 'WAIVED')
            """)
    long shortFindings(String number);

    default boolean wasShort(String order) {
        return shortFindings(order) > 0;
    }

    @HQL("""
            select o.number
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.customerId = :customerId and x.reviewable = true
            order by o.id fetch first 2 rows only
            """)
    List<String> firstTwoWaiting(long customerId);

    @HQL("""
            select i.code, min(s.onHand - s.reserved)
            from ShelfEntity s
            join ItemEntity i on i.id = s.itemId
            join SiteEntity t on t.id = s.siteId
            where :items contains i.code and :sites contains t.code
            group by i.code
            """)
    List<LeftRow> leftOf(String[] items, String[] sites);

    /** Whether a day was looked at to its end. */
    @HQL("select count(*) from DailyRecheckEntity dr where dr.runOn = :runOn and dr.finishedAt is not null")
    long runs(LocalDate runOn);

    @HQL("""
            select distinct c.code
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            join CustomerEntity c on c.id = x.customerId
            where o.state = 'HELD' or x.toShip = true and (exists (select 1 from InvoiceEntity i where i.customerId =
                c.id and i.openAmount >= 0.0001bd and i.dueOn < :dueOn) or exists (select 1 from OrderLineEntity l join
                ItemEntity i on i.code = l.itemCode where l.orderId = x.orderId and i.regulated <> ''))
            order by c.code
            """)
    List<String> concernedBy(LocalDate dueOn);

    @HQL("""
            select distinct c.code
            from OrderEntity o
            join CustomerEntity c on c.id = o.customerId
            where o.state = 'HELD'
            order by c.code
            """)
    List<String> withHeldOrders();

    record QueuedRow(long id, String reach, String queuedBy) {}

    @HQL("""
            select distinct x.customerId
            from OpenOrderEntity x
            where x.reviewable = true and exists (select 1 from OrderLineEntity l where l.orderId = x.orderId and
                l.itemCode = :itemCode and l.removed = false)
            """)
    List<Long> whoWant(String itemCode);

    @HQL("""
            select distinct rq.customerId
            from RecheckQueueEntity rq
            where rq.queuedAt < :queuedAt
            order by rq.customerId
            """)
    List<Long> leftBehind(Instant queuedAt);

    @HQL("""
            select rq.id, rq.reach, rq.queuedBy
            from RecheckQueueEntity rq
            where rq.customerId = :customerId
            order by rq.id
            """)
    List<QueuedRow> queued(long customerId);

    @HQL("delete from RecheckQueueEntity rq where :ids contains rq.id")
    int removeQueued(Long[] ids);

    @HQL("""
            select o.number
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.customerId = :customerId and x.cleared = true
            order by o.id desc
            """)
    List<String> cleared(long customerId);

    @HQL("select count(*) from OpenOrderEntity oo")
    long openOrders();

    @HQL("""
            select distinct i.code
            from QuotaEntity q
            join ItemEntity i on i.id = q.itemId
            where :items contains i.code and q.scope <> 'CUSTOMER'
            """)
    List<String> shared(String[] items);

    @HQL("""
            delete
            from QuotaEntity q
            where q.itemId = :itemId and q.scope = :scope and q.scopeKey = :scopeKey
            and q.seasonFrom = :seasonFrom
            """)
    int removeQuota(long itemId, String scope, String scopeKey, LocalDate seasonFrom);

    record WantedRow(long customerId, String itemCode, BigDecimal quantity) {}

    /** What open orders that wait for something want of items, each. */
    @HQL("""
            select x.customerId, l.itemCode, sum(l.quantity)
            from OpenOrderEntity x
            join OrderLineEntity l on l.orderId = x.orderId
            where x.reviewable = true and :items contains l.itemCode and l.removed = false
            group by x.customerId, x.orderId, l.itemCode
            """)
    List<WantedRow> wanted(String[] items);

    @HQL("""
            select o.number
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.customerId = :customer and x.reviewable = true
            order by o.id
            """)
    List<String> waiting(long customer);

    /** Those that wait and are not cleared, or have an open finding of one of these checks. */
    @HQL("""
            select o.number
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.customerId = :customer and x.reviewable = true and (x.cleared = false or exists (
                select 1 from FindingEntity f
                where f.orderId = x.orderId and f.state = 'OPEN' and :checks contains f.checkCode))
            order by o.id
            """)
    List<String> waitingBeside(long customer, String[] checks);

    record TriedRow(String number, String customerName) {}

    @HQL("""
            select o.number, c.name
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            join CustomerEntity c on c.id = x.customerId
            where o.state <> 'DRAFT'
            order by x.orderId desc
            fetch first :most rows only
            """)
    List<TriedRow> latestOpen(int most);

    record QuotaRow(String item, String scope, String scopeKey, LocalDate from, LocalDate to, BigDecimal quantity) {}

    @HQL("""
            select i.code, q.scope, q.scopeKey, q.seasonFrom, q.seasonTo, q.quantity
            from QuotaEntity q
            join ItemEntity i on i.id = q.itemId
            where :items contains i.code and :on between q.seasonFrom and q.seasonTo
            and (q.scope = 'CUSTOMER' and q.scopeKey = :customer or q.scope = 'REGION' and q.scopeKey = :region
                or q.scope = 'SELLER' and q.scopeKey = :seller)
            order by q.id
            """)
    List<QuotaRow> quotas(String[] items, LocalDate on, String customer, String region, String seller);

    @HQL("""
            select i.code, q.scope, q.scopeKey, q.seasonFrom, q.seasonTo, q.quantity
            from QuotaEntity q
            join ItemEntity i on i.id = q.itemId
            where i.code = :item
            order by q.seasonFrom desc, q.scope, q.scopeKey
            """)
    List<QuotaRow> quotasOf(String item);

    /** Ordered less cancelled, of orders that are cleared or were. */
    @HQL("""
            select coalesce(sum(l.quantity - coalesce((select sum(k.quantity) from CancellationLineEntity k
                where k.rootOrderId = l.orderId and k.orderLineNo = l.lineNo), 0)), 0)
            from OrderLineEntity l
            join OrderEntity o on o.id = l.orderId
            where l.itemCode = :item and l.removed = false and o.orderedOn between :from and :to
            and o.number <> :beside and o.state in ('CLEARED', 'COMPLETED', 'CLOSED_SHORT')
            and o.customerId = (select c.id from CustomerEntity c where c.code = :key)
            """)
    BigDecimal usedByCustomer(String key, String item, LocalDate from, LocalDate to, String beside);

    /** Ordered less cancelled, of orders that are cleared or were. */
    @HQL("""
            select coalesce(sum(l.quantity - coalesce((select sum(k.quantity) from CancellationLineEntity k
                where k.rootOrderId = l.orderId and k.orderLineNo = l.lineNo), 0)), 0)
            from OrderLineEntity l
            join OrderEntity o on o.id = l.orderId
            join CustomerEntity c on c.id = o.customerId
            where l.itemCode = :item and l.removed = false and o.orderedOn between :from and :to
            and o.number <> :beside and o.state in ('CLEARED', 'COMPLETED', 'CLOSED_SHORT') and c.region = :key
            """)
    BigDecimal usedByRegion(String key, String item, LocalDate from, LocalDate to, String beside);

    /** Ordered less cancelled, of orders that are cleared or were. */
    @HQL("""
            select coalesce(sum(l.quantity - coalesce((select sum(k.quantity) from CancellationLineEntity k
                where k.rootOrderId = l.orderId and k.orderLineNo = l.lineNo), 0)), 0)
            from OrderLineEntity l
            join OrderEntity o on o.id = l.orderId
            where l.itemCode = :item and l.removed = false and o.orderedOn between :from and :to
            and o.number <> :beside and o.state in ('CLEARED', 'COMPLETED', 'CLOSED_SHORT')
            and o.author = :key
            """)
    BigDecimal usedBySeller(String key, String item, LocalDate from, LocalDate to, String beside);
}
