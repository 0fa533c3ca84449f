package app.euthyna.server.trail;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.trail.DepositFact;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface TrailQueries {
    StatelessSession session();

    record DocumentRow(String documentKind, String documentNumber) {}

    record OwedRow(String number, BigDecimal creditDue, BigDecimal creditedAhead) {}

    record WishRow(String number, BigDecimal leftAmount) {}

    record PayoutRow(String number, BigDecimal amount, String state) {}

    record PaidRow(long paymentId, String payment) {}

    record AllocationRow(
            String number, String invoice, BigDecimal amount, LocalDate allocatedOn, long moment, String byUser) {}

    record PaymentRow(
            String number,
            String customer,
            LocalDate receivedOn,
            BigDecimal amount,
            BigDecimal leftAmount,
            DocumentKind kind,
            BigDecimal refunded,
            boolean reversed) {}

    record DepositOfRow(long depositId, String deposit) {}

    record UseRow(
            String deposit,
            DepositFact.Kind kind,
            DocumentKind documentKind,
            String documentNumber,
            BigDecimal amount,
            LocalDate usedOn,
            long moment,
            String byUser) {}

    record DepositRow(
            String number,
            String order,
            LocalDate receivedOn,
            BigDecimal amount,
            BigDecimal leftAmount,
            String movedFrom) {}

    record RefundRow(
            String number,
            DocumentKind sourceKind,
            String sourceNumber,
            LocalDate refundedOn,
            BigDecimal amount,
            LocalDate reversedOn) {}

    record RemarkRow(
            String order,
            String documentNumber,
            LocalDate happenedOn,
            long moment,
            String byUser,
            String sentence,
            String event) {}

    record StampRow(String kind, String number, long moment, String byUser, String event) {}

    @HQL("select je.documentKind, je.documentNumber from JournalEntryEntity je where je.number = :number")
    Optional<DocumentRow> documentOf(String number);

    @HQL("select gr.number, gr.creditDue, gr.creditedAhead from ReturnEntity gr where :numbers contains gr.number")
    List<OwedRow> owed(String[] numbers);

    @HQL("""
            select k.number, p.leftAmount
            from CreditNoteEntity k
            join PaymentEntity p on p.number = k.number
            where :numbers contains k.number and k.wish = 'REFUND' and p.leftAmount >= 0.0001bd
            order by k.id
            """)
    List<WishRow> refundsWished(String[] numbers);

    @HQL("""
            select r.number, r.amount, u.state
            from RefundEntity r
            join PayoutEntity u on u.refundId = r.id
            where u.closed = false and :sources contains r.sourceNumber
            order by r.id
            """)
    List<PayoutRow> openPayouts(String[] sources);

    @HQL("select r.sourceNumber from RefundEntity r where r.number = :number and r.orderId is null")
    Optional<String> refunded(String number);

    @HQL("""
            select distinct p.id, p.number
            from AllocationEntity a
            join PaymentEntity p on p.id = a.paymentId
            join InvoiceEntity i on i.id = a.invoiceId
            where :invoices contains i.number
            order by p.id
            """)
    List<PaidRow> paid(String[] invoices);

    @HQL("""
            select p.number, i.number, a.amount, a.allocatedOn, a.moment, h.byUser
            from PaymentEntity p
            join AllocationEntity a on a.paymentId = p.id
            left join HistoryEntity h on h.moment = a.moment
            join InvoiceEntity i on i.id = a.invoiceId
            where :numbers contains p.number and a.discount = false
            order by a.id
            """)
    List<AllocationRow> allocations(String[] numbers);

    @HQL("""
            select p.number, c.code, p.receivedOn, p.amount, p.leftAmount, p.kind, p.refunded, p.reversed
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where :numbers contains p.number
            order by p.id
            """)
    List<PaymentRow> payments(String[] numbers);

    @HQL("""
            select d.number
            from DepositEntity d
            join OrderEntity o on o.id = d.orderId
            where :roots contains o.number
            order by d.id
            """)
    List<String> depositsAt(String[] roots);

    @HQL("""
            select distinct d.id, d.number
            from DepositUseEntity u
            join DepositEntity d on d.id = u.depositId
            join InvoiceEntity i on i.id = u.invoiceId
            where :invoices contains i.number
            order by d.id
            """)
    List<DepositOfRow> depositsOf(String[] invoices);

    @HQL("""
            select d.number, u.kind, u.documentKind, u.documentNumber, u.amount, u.usedOn, u.moment, h.byUser
            from DepositUseEntity u
            join DepositEntity d on d.id = u.depositId
            left join HistoryEntity h on h.moment = u.moment
            where :numbers contains d.number
            order by u.id
            """)
    List<UseRow> uses(String[] numbers);

    @HQL("""
            select d.number, o.number, d.receivedOn, d.amount, d.leftAmount, (select m.number from DepositEntity m
                where m.id = d.movedFrom)
            from DepositEntity d
            join OrderEntity o on o.id = d.orderId
            where :numbers contains d.number
            order by d.id
            """)
    List<DepositRow> deposits(String[] numbers);

    @HQL("""
            select r.number, r.sourceKind, r.sourceNumber, r.refundedOn, r.amount, r.reversedOn
            from RefundEntity r
            where r.sourceKind in ('PAYMENT', 'DEPOSIT', 'CREDIT_NOTE') and :numbers contains r.sourceNumber
            and r.orderId is null
            order by r.id
            """)
    List<RefundRow> refunds(String[] numbers);

    @HQL("""
            select distinct o.number
            from InvoiceEntity i
            join InvoiceLineEntity l on l.invoiceId = i.id
            join OrderEntity o on o.id = l.rootOrderId
            where :invoices contains i.number
            """)
    List<String> paidElsewhere(String[] invoices);

    @HQL("""
            select o.number, h.documentNumber, h.happenedOn, h.moment, h.byUser, h.sentence, h.event
            from HistoryEntity h
            join OrderEntity o on o.id = h.orderId
            where :roots contains o.number and h.event in ('state', 'waived', 'changed', 'started', 'replaced',
                'corrected', 'disputed', 'dispute-changed', 'dispute-ended')
            order by h.moment
            """)
    List<RemarkRow> remarks(String[] roots);

    /** What happened to documents that have these numbers. */
    @HQL("""
            select h.documentKind, h.documentNumber, h.moment, h.byUser, h.event
            from HistoryEntity h
            where :numbers contains h.documentNumber
            order by h.moment
            """)
    List<StampRow> stamps(String[] numbers);

    record MoveRow(
            String number,
            LocalDate happenedOn,
            long moment,
            String byUser,
            String order,
            int orderLineNo,
            String kind,
            BigDecimal quantity) {}

    /** What came back on returns. */
    @HQL("""
            select g.number, p.receivedOn, p.moment, h.byUser, o.number, l.orderLineNo, 'RECEIVED', p.quantity
            from ReturnEntity g
            join ReturnLineEntity l on l.returnId = g.id
            join ReturnPartEntity p on p.returnLineId = l.id
            join OrderEntity o on o.id = l.rootOrderId
            join HistoryEntity h on h.moment = p.moment
            where :numbers contains g.number
            order by p.moment, p.id
            """)
    List<MoveRow> received(String[] numbers);

    /** What became of it. */
    @HQL("""
            select g.number, x.decidedOn, x.moment, h.byUser, o.number, l.orderLineNo,
                case x.kind when 'RESTOCK' then 'RESTOCKED' when 'SCRAP' then 'SCRAPPED' else 'SENT_BACK' end,
                x.quantity
            from ReturnEntity g
            join ReturnLineEntity l on l.returnId = g.id
            join ReturnPartEntity p on p.returnLineId = l.id
            join ReturnOutcomeEntity x on x.partId = p.id
            join OrderEntity o on o.id = l.rootOrderId
            join HistoryEntity h on h.moment = x.moment
            where :numbers contains g.number
            order by x.moment, x.id
            """)
    List<MoveRow> decided(String[] numbers);

    record ReversalRow(String number, LocalDate reversedOn, long moment, String byUser, String sentence) {}

    @HQL("""
            select d.number, d.reversedOn, d.reversedMoment, h.byUser, h.sentence
            from DispatchEntity d
            join HistoryEntity h on h.moment = d.reversedMoment
            where :numbers contains d.number
            """)
    List<ReversalRow> reversedDispatches(String[] numbers);

    @HQL("""
            select d.number, d.reversedOn, d.reversedMoment, h.byUser, h.sentence
            from InvoiceEntity d
            join HistoryEntity h on h.moment = d.reversedMoment
            where :numbers contains d.number
            """)
    List<ReversalRow> reversedInvoices(String[] numbers);

    @HQL("""
            select d.number, d.reversedOn, d.reversedMoment, h.byUser, h.sentence
            from CreditNoteEntity d
            join HistoryEntity h on h.moment = d.reversedMoment
            where :numbers contains d.number
            """)
    List<ReversalRow> reversedCreditNotes(String[] numbers);

    @HQL("""
            select d.number, d.reversedOn, d.reversedMoment, h.byUser, h.sentence
            from RefundEntity d
            join HistoryEntity h on h.moment = d.reversedMoment
            where :numbers contains d.number
            """)
    List<ReversalRow> reversedRefunds(String[] numbers);

    @HQL("""
            select o.number
            from CancellationEntity c
            join OrderEntity o on o.id = c.orderId
            where c.number = :number
            """)
    List<String> ordersOfCancellation(String number);

    @HQL("""
            select distinct o.number
            from PaymentEntity p
            join AllocationEntity a on a.paymentId = p.id
            join InvoiceLineEntity l on l.invoiceId = a.invoiceId
            join OrderEntity o on o.id = l.rootOrderId
            where p.number = :number
            order by o.number
            """)
    List<String> ordersOfPayment(String number);

    @HQL("""
            select distinct o.number
            from RefundEntity r
            left join DepositEntity d on d.number = r.sourceNumber
            left join CreditNoteEntity k on k.number = r.sourceNumber
            left join CreditNoteLineEntity l on l.creditNoteId = k.id
            join OrderEntity o on o.id = coalesce(r.orderId, d.orderId, l.rootOrderId)
            where r.number = :number
            order by o.number
            """)
    List<String> ordersOfRefund(String number);

    @HQL("""
            select distinct o.number
            from UnexpectedGoodsEntity u
            join UnexpectedDecisionEntity d on d.goodsId = u.id
            join ReturnLineEntity l on l.returnId = d.returnId
            join OrderEntity o on o.id = l.rootOrderId
            where u.number = :number
            order by o.number
            """)
    List<String> ordersOfUnexpectedGoods(String number);

    @HQL("""
            select o.number
            from OrderEntity o
            join SalesAgreementEntity q on q.id = o.agreementId
            where q.number = :number
            order by o.id
            """)
    List<String> ordersOfAgreement(String number);

    @HQL("select count(*) from PaymentEntity p where p.number = :number")
    long paymentsNumbered(String number);

    @HQL("select count(*) from RefundEntity r where r.number = :number")
    long refundsNumbered(String number);
}
