package app.euthyna.server.unwind;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface UnwindQueries {
    StatelessSession session();

    record PaymentRow(DocumentKind kind, String number) {}

    record ShelfRow(
            String item,
            String site,
            BigDecimal onHand,
            BigDecimal reserved,
            BigDecimal stockValue,
            BigDecimal quantity) {}

    @HQL("""
            select distinct p.kind, p.number
            from PaymentEntity p
            join AllocationEntity a on a.paymentId = p.id
            join InvoiceLineEntity l on l.invoiceId = a.invoiceId
            join OrderEntity o on o.id = l.rootOrderId
            where :orders contains o.number
            """)
    List<PaymentRow> paymentsOf(String[] orders);

    @HQL("""
            select r.number
            from RefundEntity r
            where r.sourceKind in ('PAYMENT', 'DEPOSIT', 'CREDIT_NOTE') and :sources contains r.sourceNumber
            """)
    List<String> refundsOf(String[] sources);

    @HQL("""
            select i.code, s.code, h.onHand, h.reserved, h.stockValue, coalesce((select sum(p.quantity -
                coalesce((select sum(o.quantity) from ReturnOutcomeEntity o where o.partId = p.id), 0)) from
                ReturnLineEntity l join ReturnPartEntity p on p.returnLineId = l.id where l.itemId = h.itemId and
                l.siteId = h.siteId), 0)
            from ShelfEntity h
            join ItemEntity i on i.id = h.itemId
            join SiteEntity s on s.id = h.siteId
            where :items contains i.code
            order by i.code, s.id
            """)
    List<ShelfRow> shelves(String[] items);

    record AppliedRow(String deposit, String order, String customer, String invoice, BigDecimal amount) {}

    record SettledRow(String number, String invoice, BigDecimal amount) {}

    record SourceRow(
            String number,
            DocumentKind kind,
            String customer,
            BigDecimal amount,
            BigDecimal leftAmount,
            BigDecimal refunded,
            boolean reversed) {}

    @HQL("""
            select c.code
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where p.number = :number and p.kind = :kind
            """)
    Optional<String> customerOfMoney(String number, DocumentKind kind);

    @HQL("""
            select d.number, o.number, c.code, i.number, sum(u.amount)
            from DepositUseEntity u
            join DepositEntity d on d.id = u.depositId
            join OrderEntity o on o.id = d.orderId
            join CustomerEntity c on c.id = d.customerId
            join InvoiceEntity i on i.id = u.invoiceId
            where :numbers contains i.number and u.kind = 'APPLIED'
            group by d.id, d.number, o.number, c.code, i.number
            having sum(u.amount) > 0
            order by d.id, i.number
            """)
    List<AppliedRow> applied(String[] numbers);

    @HQL("""
            select distinct p.number
            from AllocationEntity a
            join PaymentEntity p on p.id = a.paymentId
            join InvoiceEntity i on i.id = a.invoiceId
            where :numbers contains i.number
            """)
    List<String> paymentsFor(String[] numbers);

    @HQL("""
            select p.number, i.number, sum(a.amount)
            from PaymentEntity p
            join AllocationEntity a on a.paymentId = p.id
            join InvoiceEntity i on i.id = a.invoiceId
            where :numbers contains p.number and a.discount = false
            group by p.id, p.number, i.id, i.number
            order by p.id, i.id
            """)
    List<SettledRow> settled(String[] numbers);

    @HQL("""
            select p.number, p.kind, c.code, p.amount, p.leftAmount, p.refunded, p.reversed
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where :numbers contains p.number
            order by p.id
            """)
    List<SourceRow> sources(String[] numbers);

    @HQL("select c.name from CustomerEntity c where c.code = :code")
    String customerName(String code);

    @HQL("""
            select o.number
            from UnwindingOrderEntity x
            join OrderEntity o on o.id = x.orderId
            where x.unwindingId = :unwindingId
            order by o.id
            """)
    List<String> ordersOf(long unwindingId);

    @HQL("""
            update UnwindingEntity u
            set u.state = :state, u.waitsFor = :waitsFor, u.waitsAt = :waitsAt, u.touchedOn = :touchedOn, u.version
                = u.version + 1
            where u.id = :id
            """)
    int goesOn(String state, String waitsFor, String waitsAt, LocalDate touchedOn, long id);

    @HQL("""
            update UnwindingEntity u
            set u.state = 'ABANDONED', u.waitsFor = null, u.touchedOn = :touchedOn, u.endedBy = :endedBy, u.endedWhy
                = :endedWhy, u.version = u.version + 1
            where u.id = :id
            """)
    int abandoned(LocalDate touchedOn, String endedBy, String endedWhy, long id);

    @HQL("select c.code from RefundEntity r join CustomerEntity c on c.id = r.customerId where r.number = :number")
    Optional<String> customerOfRefund(String number);

    @HQL("select o.number from RefundEntity r join OrderEntity o on o.id = r.orderId where r.number = :number")
    List<String> ordersOfRefund(String number);

    /** The orders on the invoice that a credit note is for. */
    @HQL("""
            select distinct o.number
            from CreditNoteEntity k
            join InvoiceLineEntity l on l.invoiceId = k.invoiceId
            join OrderEntity o on o.id = l.rootOrderId
            where k.number = :number
            order by o.number
            """)
    List<String> ordersOfCredited(String number);

    record RefundRow(
            String customer,
            DocumentKind sourceKind,
            String sourceNumber,
            String order,
            BigDecimal amount,
            LocalDate reversedOn,
            String payout) {}

    /** A refund, with how far its payout is; without one it goes another way than through the payment service. */
    @HQL("""
            select c.code, r.sourceKind, r.sourceNumber, coalesce(o.number, ''), r.amount, r.reversedOn, u.state
            from RefundEntity r
            join CustomerEntity c on c.id = r.customerId
            left join OrderEntity o on o.id = r.orderId
            left join PayoutEntity u on u.refundId = r.id
            where r.number = :number
            """)
    Optional<RefundRow> refund(String number);

    record OriginRow(String deposit, String order) {}

    /** The deposit that a deposit was moved from. */
    @HQL("""
            select m.number, o.number
            from DepositEntity d
            join DepositEntity m on m.id = d.movedFrom
            join OrderEntity o on o.id = m.orderId
            where d.number = :number
            """)
    Optional<OriginRow> cameFrom(String number);

    /** Deposits that a deposit was moved to and that were not taken back. */
    @HQL("""
            select d.number
            from DepositEntity d
            join DepositEntity m on m.id = d.movedFrom
            where m.number = :number and d.reversedOn is null
            order by d.id
            """)
    List<String> movedTo(String number);

    /** What of a deposit was refunded before it became credit. */
    @HQL("""
            select coalesce(sum(u.amount), 0)
            from DepositUseEntity u
            join DepositEntity d on d.id = u.depositId
            where d.number = :number and u.kind = 'GIVEN_BACK'
            """)
    BigDecimal refundedOfDeposit(String number);

    record AmountRow(String number, BigDecimal amount) {}

    @HQL("""
            select i.number, i.openAmount
            from InvoiceEntity i
            where i.id in (select l.invoiceId from InvoiceLineEntity l join OrderEntity o on o.id = l.rootOrderId
                where :orders contains o.number)
            order by i.id
            """)
    List<AmountRow> openOfOrders(String[] orders);

    @HQL("""
            select d.number, d.leftAmount
            from DepositEntity d
            join OrderEntity o on o.id = d.orderId
            where :orders contains o.number
            order by d.id
            """)
    List<AmountRow> depositsOfOrders(String[] orders);

    @HQL("select u from UnwindingEntity u where u.state = 'WAITING' and u.returnNumber = :number order by u.id")
    List<UnwindingEntity> waitingForReturn(String number);

    @HQL("select u from UnwindingEntity u where u.state = 'WAITING' and u.waitsFor = 'PERIOD' order by u.id")
    List<UnwindingEntity> waitingForPeriod();

    @HQL("select u from UnwindingEntity u where u.state = 'WAITING' and u.id = :id")
    Optional<UnwindingEntity> waiting(long id);

    record DoneRow(UnwindingEntity done, String customer, String customerName) {}

    /** What was undone, newest first; what is null does not matter. */
    default List<DoneRow> done(Long id, String order, boolean waiting, Long before) {
        return Listing.of(session(), DoneRow.class, """
                        select u, c.code, c.name
                        from UnwindingEntity u
                        join CustomerEntity c on c.id = u.customerId
                        """)
                .where("u.id = :id", id)
                .whereIf(waiting, "u.state = 'WAITING'")
                .where("""
                        u.id in (select x.unwindingId from UnwindingOrderEntity x join OrderEntity o on o.id = x.orderId
                        where o.number = :order)""", order)
                .where("u.id < :before", before)
                .then("order by u.id desc")
                .page();
    }
}
