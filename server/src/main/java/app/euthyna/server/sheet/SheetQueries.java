package app.euthyna.server.sheet;

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

    /** A document of a customer on a day. */
    record DocumentRow(long id, LocalDate happenedOn, String number, String reference, BigDecimal value) {}

    @HQL("""
            select o.id, o.orderedOn, o.number, o.po, o.gross
            from OrderEntity o
            where o.customerId = :customer and o.orderedOn >= :from and o.orderedOn <= :to and o.state <> 'DRAFT'
            order by o.orderedOn, o.id
            fetch first :most rows only
            """)
    List<DocumentRow> orders(long customer, LocalDate from, LocalDate to, int most);

    @HQL("""
            select d.id, d.departedOn, d.number, o.number, cast(null as BigDecimal)
            from OrderEntity o
            join DispatchEntity d on d.orderId = o.id
            where o.customerId = :customer and d.departedOn >= :from and d.departedOn <= :to
            order by d.departedOn, d.id
            fetch first :most rows only
            """)
    List<DocumentRow> departures(long customer, LocalDate from, LocalDate to, int most);

    @HQL("""
            select d.id, d.reversedOn, d.number, o.number, cast(null as BigDecimal)
            from OrderEntity o
            join DispatchEntity d on d.orderId = o.id
            where o.customerId = :customer and d.reversedOn >= :from and d.reversedOn <= :to
            order by d.reversedOn, d.id
            fetch first :most rows only
            """)
    List<DocumentRow> dispatchesTakenBack(long customer, LocalDate from, LocalDate to, int most);

    @HQL("""
            select g.id, g.authorisedOn, g.number, '', cast(null as BigDecimal)
            from ReturnEntity g
            where g.customerId = :customer and g.authorisedOn >= :from and g.authorisedOn <= :to
            order by g.authorisedOn, g.id
            fetch first :most rows only
            """)
    List<DocumentRow> returns(long customer, LocalDate from, LocalDate to, int most);

    /** The day on which the first goods of a return came. */
    @HQL("""
            select g.id, g.receivedOn, g.number, '', cast(null as BigDecimal)
            from ReturnEntity g
            where g.customerId = :customer and g.receivedOn >= :from and g.receivedOn <= :to
            order by g.receivedOn, g.id
            fetch first :most rows only
            """)
    List<DocumentRow> received(long customer, LocalDate from, LocalDate to, int most);

    /** A document of a customer of which something is open. */
    record OpenRow(
            long id,
            LocalDate happenedOn,
            String number,
            String what,
            String reference,
            LocalDate dueOn,
            BigDecimal toCome,
            BigDecimal open) {}

    @HQL("""
            select o.id, o.orderedOn, o.number, cast(o.state as String), o.po, o.requestedOn,
                x.openGross + x.unbilledGross, cast(null as BigDecimal)
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.customerId = :customer
            order by x.orderId
            fetch first :most rows only
            """)
    List<OpenRow> openOrders(long customer, int most);

    @HQL("""
            select d.id, d.stagedOn, d.number, 'STAGED', o.number, cast(null as LocalDate), cast(null as BigDecimal),
                cast(null as BigDecimal)
            from OpenOrderEntity x
            join OrderEntity o on o.id = x.orderId
            join DispatchEntity d on d.orderId = o.id
            where x.customerId = :customer and d.state = 'STAGED'
            order by d.id
            fetch first :most rows only
            """)
    List<OpenRow> stagedDispatches(long customer, int most);

    @HQL("""
            select g.id, g.authorisedOn, g.number, case when g.expects = true then 'EXPECTED'
                    when g.inspecting = true then 'IN_INSPECTION' else 'TO_CREDIT' end,
                '', cast(null as LocalDate), cast(null as BigDecimal), cast(null as BigDecimal)
            from ReturnEntity g
            where g.customerId = :customer and (g.expects = true or g.inspecting = true or g.creditDue > 0)
            order by g.id
            fetch first :most rows only
            """)
    List<OpenRow> openReturns(long customer, int most);

    @HQL("""
            select i.id, i.invoicedOn, i.number, case when i.openAmount = i.gross then 'UNPAID' else 'PART_PAID' end,
                '', i.dueOn, cast(null as BigDecimal), i.openAmount
            from InvoiceEntity i
            where i.customerId = :customer and i.openAmount >= 0.0001bd
            order by i.id
            fetch first :most rows only
            """)
    List<OpenRow> unpaid(long customer, int most);

    @HQL("""
            select d.id, d.receivedOn, d.number, 'UNUSED', o.number, cast(null as LocalDate), cast(null as BigDecimal),
                - d.leftAmount
            from DepositEntity d
            left join OrderEntity o on o.id = d.orderId
            where d.customerId = :customer and d.leftAmount >= 0.0001bd
            order by d.id
            fetch first :most rows only
            """)
    List<OpenRow> unusedDeposits(long customer, int most);

    /** Payments, credit notes and deposits with credit; each says what it is in place of a state. */
    @HQL("""
            select p.id, p.receivedOn, p.number, cast(p.kind as String), p.reference, cast(null as LocalDate),
                cast(null as BigDecimal), - p.leftAmount
            from PaymentEntity p
            where p.customerId = :customer and p.leftAmount >= 0.0001bd
            order by p.id
            fetch first :most rows only
            """)
    List<OpenRow> unusedMoney(long customer, int most);

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
            where i.customerId = :customerId and i.openAmount >= 0.0001bd and i.dueOn < :dueOn
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

    record AverageRow(String item, String site, BigDecimal onHand, BigDecimal stockValue) {}

    /** Shelves on which something is. */
    @HQL("""
            select i.code, t.code, s.onHand, s.stockValue
            from ShelfEntity s
            join ItemEntity i on i.id = s.itemId
            join SiteEntity t on t.id = s.siteId
            where :items contains i.code and s.onHand > 0
            """)
    List<AverageRow> averages(String[] items);

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
