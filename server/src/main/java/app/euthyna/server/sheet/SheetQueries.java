package app.euthyna.server.sheet;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderState;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface SheetQueries {
    StatelessSession session();

    record DecisionRow(LocalDate happenedOn, String byUser, String order, String sentence) {}

    record BilledRow(String order, String invoice) {}

    @HQL("""
            select h.happenedOn, h.byUser, o.number, h.sentence
            from HistoryEntity h
            join OrderEntity o on o.id = h.orderId
            where h.orderId in (select so.id from OrderEntity so where so.customerId = :customerId order by so.id
                desc fetch first 400 rows only) and (h.event in ('waived', 'approved', 'sent-back', 'recalled',
                'cancelled') or h.stateTo = 'DECLINED')
            order by h.moment desc fetch first 40 rows only
            """)
    List<DecisionRow> decisions(long customerId);

    @HQL("""
            select coalesce(sum(i.openAmount), 0)
            from InvoiceEntity i
            where i.customerId = :customerId and i.openAmount > 0 and i.dueOn < :dueOn
            """)
    BigDecimal pastDue(long customerId, LocalDate dueOn);

    @HQL("""
            select distinct o.number, i.number
            from InvoiceLineEntity l
            join InvoiceEntity i on i.id = l.invoiceId
            join OrderEntity o on o.id = l.rootOrderId
            where :orders contains o.number and i.reversedOn is null
            """)
    List<BilledRow> invoicesOf(String[] orders);

    record StoreRow(String site, String siteName, BigDecimal onHand, BigDecimal reserved, BigDecimal stockValue) {}

    @HQL("""
            select t.code, t.name, s.onHand, s.reserved, s.stockValue
            from ShelfEntity s
            join SiteEntity t on t.id = s.siteId
            where s.itemId = :itemId
            order by t.id
            """)
    List<StoreRow> shelves(long itemId);

    record CustomerRow(
            String code,
            String name,
            String town,
            BigDecimal creditLimit,
            String blockedWhy,
            BigDecimal exposure,
            Long open,
            Long held) {}

    /** Customers by name, from one on; cut off before anything is summed. */
    @HQL("""
            select p.code, p.name, p.town, p.creditLimit, p.blockedWhy,
                coalesce((select sum(i.openAmount) from InvoiceEntity i
                    where i.customerId = p.id and i.openAmount > 0), 0)
                + coalesce((select sum(x.unbilledGross) + sum(case when x.cleared = true then x.openGross else 0 end)
                    from OpenOrderEntity x where x.customerId = p.id), 0)
                - coalesce((select sum(m.leftAmount) from PaymentEntity m
                    where m.customerId = p.id and m.leftAmount > 0), 0),
                (select count(*) from OpenOrderEntity x where x.customerId = p.id),
                (select count(*) from OpenOrderEntity x join OrderEntity o on o.id = x.orderId
                    where x.customerId = p.id and o.state = 'HELD')
            from (select c.id as id, c.code as code, c.name as name, c.town as town, c.creditLimit as creditLimit,
                c.blockedWhy as blockedWhy
                from CustomerEntity c
                where c.searchKey like :like escape '!' and (c.name > :name or (c.name = :name and c.code > :code))
                order by c.name, c.code
                fetch first 101 rows only) p
            order by p.name, p.code
            """)
    List<CustomerRow> customers(String like, String name, String code);

    record ItemRow(
            String code,
            String name,
            LineKind kind,
            String unit,
            BigDecimal price,
            String regulated,
            BigDecimal onHand,
            BigDecimal free,
            BigDecimal waiting,
            BigDecimal minStock) {}

    /** Items by name, from one on; cut off before anything is summed. */
    @HQL("""
            select p.code, p.name, p.kind, p.unit, p.price, p.regulated,
                coalesce((select sum(s.onHand) from ShelfEntity s where s.itemId = p.id), 0),
                coalesce((select sum(s.onHand - s.reserved) from ShelfEntity s where s.itemId = p.id), 0),
                coalesce((select sum(k.waiting) from StockClaimEntity k where k.itemId = p.id and k.waits = true), 0),
                p.minStock
            from (select i.id as id, i.code as code, i.name as name, i.kind as kind, i.unit as unit, i.price as price,
                i.regulated as regulated, i.minStock as minStock
                from ItemEntity i
                where i.searchKey like :like escape '!' and (i.name > :name or (i.name = :name and i.code > :code))
                order by i.name, i.code
                fetch first 101 rows only) p
            order by p.name, p.code
            """)
    List<ItemRow> items(String like, String name, String code);

    record ClaimRow(
            String order,
            int line,
            String customer,
            String customerName,
            String site,
            LocalDate requestedOn,
            BigDecimal reserved,
            BigDecimal waiting,
            long clearing,
            long orderId) {}

    /** Who holds an item or waits for it, in the sequence of the queue. */
    @HQL("""
            select o.number, k.lineNo, c.code, c.name, t.code, k.requestedOn, k.reserved, k.waiting, k.clearing,
                k.orderId
            from StockClaimEntity k
            join OrderEntity o on o.id = k.orderId
            join CustomerEntity c on c.id = o.customerId
            join SiteEntity t on t.id = k.siteId
            where k.itemId = :item and (k.reserved > 0 or k.waiting > 0) and k.requestedOn >= :requested
            and (k.requestedOn > :requested or (k.requestedOn = :requested and (k.clearing > :clearing
                or (k.clearing = :clearing and (k.orderId > :order or (k.orderId = :order and k.lineNo > :line))))))
            order by k.requestedOn, k.clearing, k.orderId, k.lineNo
            fetch first 101 rows only
            """)
    List<ClaimRow> claims(long item, LocalDate requested, long clearing, long order, int line);

    record PoRow(
            long id,
            String po,
            String poNormal,
            String number,
            OrderState state,
            LocalDate orderedOn,
            BigDecimal net) {}

    /** Uses of PO numbers, newest first. */
    @HQL("""
            select o.id, o.po, o.poNormal, o.number, o.state, o.orderedOn, o.net
            from OrderEntity o
            where o.customerId = :customer and o.poNormal <> '' and o.poNormal like :like escape '!'
            and o.id < :before
            order by o.id desc
            fetch first 101 rows only
            """)
    List<PoRow> poNumbers(long customer, String like, long before);

    record PastPoRow(String po, String poNormal, String number, LocalDate invoicedOn, BigDecimal net) {}

    /** The same of what was imported from before. */
    @HQL("""
            select p.po, p.poNormal, p.number, p.invoicedOn, p.net
            from PastInvoiceEntity p
            where p.customerId = :customer and p.poNormal like :like escape '!'
            order by p.id desc
            fetch first 500 rows only
            """)
    List<PastPoRow> pastPoNumbers(long customer, String like);
}
