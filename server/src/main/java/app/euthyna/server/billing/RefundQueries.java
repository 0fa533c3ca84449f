package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface RefundQueries {
    StatelessSession session();

    @HQL("select p.id from PayoutEntity p join RefundEntity r on r.id = p.refundId where r.number = :number")
    Optional<Long> payoutOf(String number);

    @HQL("""
            update PayoutEntity p
            set p.state = 'SENDING', p.tries = p.tries + 1, p.version = p.version + 1
            where p.id = :id and p.closed = false and p.state in ('WAITING', 'SENDING')
            """)
    int claim(long id);

    @HQL("""
            update PayoutEntity p
            set p.closed = true, p.version = p.version + 1
            where p.state = 'DECLINED' and p.refundId in (select r.id from RefundEntity r where r.sourceKind =
                :sourceKind and r.sourceNumber = :sourceNumber)
            """)
    int closeDeclined(DocumentKind sourceKind, String sourceNumber);

    @HQL("""
            update PayoutEntity p
            set p.state = :state, p.reference = :reference, p.answer = :answer, p.closed = :closed, p.version =
                p.version + 1
            where p.id = :id
            """)
    int end(String state, String reference, String answer, boolean closed, long id);

    record ByPersonRow(String byUser, BigDecimal amount) {}

    record OfDocumentRow(DocumentKind sourceKind, String sourceNumber, BigDecimal amount) {}

    record ReceivedRow(String documentKind, String documentNumber, String byUser) {}

    @HQL("""
            select h.byUser, sum(r.amount)
            from RefundEntity r
            join CustomerEntity c on c.id = r.customerId
            join HistoryEntity h on h.documentKind = 'REFUND' and h.documentNumber = r.number
            and h.event = 'refunded'
            where c.code = :code and r.reversedOn is null and h.writtenOn >= :writtenOn
            group by h.byUser
            """)
    List<ByPersonRow> byPerson(String code, LocalDate writtenOn);

    @HQL("""
            select r.sourceKind, r.sourceNumber, sum(r.amount)
            from RefundEntity r
            join HistoryEntity h on h.documentKind = 'REFUND' and h.documentNumber = r.number
            and h.event = 'refunded'
            where :numbers contains r.sourceNumber and r.reversedOn is null
            and h.writtenOn >= :since
            group by r.sourceKind, r.sourceNumber
            """)
    List<OfDocumentRow> ofDocument(String[] numbers, LocalDate since);

    @HQL("""
            select distinct h.documentKind, h.documentNumber, h.byUser
            from HistoryEntity h
            where :numbers contains h.documentNumber and h.event = 'received'
            """)
    List<ReceivedRow> received(String[] numbers);

    record RefundRow(
            String number,
            String customer,
            DocumentKind sourceKind,
            String sourceNumber,
            String order,
            BigDecimal amount,
            LocalDate reversedOn) {}

    @HQL("""
            select r.number, c.code, r.sourceKind, r.sourceNumber, coalesce(o.number, ''), r.amount, r.reversedOn
            from RefundEntity r
            join CustomerEntity c on c.id = r.customerId
            left join OrderEntity o on o.id = r.orderId
            join PayoutEntity p on p.refundId = r.id
            where p.id = :payout
            """)
    RefundRow refundOf(long payout);

    @HQL("""
            select r.number, c.code, r.sourceKind, r.sourceNumber, coalesce(o.number, ''), r.amount, r.reversedOn
            from RefundEntity r
            join CustomerEntity c on c.id = r.customerId
            left join OrderEntity o on o.id = r.orderId
            where r.number = :number
            """)
    RefundRow refund(String number);

    @HQL("""
            update PayoutEntity p
            set p.state = 'DECLINED', p.answer = 'Taken back before it was sent.', p.closed = true, p.version =
                p.version + 1
            where p.refundId = :refund and p.state = 'WAITING'
            """)
    int withdraw(long refund);

    @HQL("select count(*) from PayoutEntity p where p.refundId = :refund and p.state in ('SENDING', 'UNANSWERED')")
    long onTheirWay(long refund);

    @HQL("select r.id from RefundEntity r where r.number = :number")
    long refundId(String number);

    record PayoutRow(
            long id,
            String refund,
            String customer,
            String customerName,
            DocumentKind sourceKind,
            String sourceNumber,
            BigDecimal amount,
            LocalDate refundedOn,
            String state,
            int tries,
            String reference,
            String answer,
            long version) {}

    @HQL("""
            select p.id, r.number, c.code, c.name, r.sourceKind, r.sourceNumber, r.amount, r.refundedOn, p.state,
                p.tries, p.reference, p.answer, p.version
            from PayoutEntity p
            join RefundEntity r on r.id = p.refundId
            join CustomerEntity c on c.id = r.customerId
            where p.closed = false and p.id > :after
            order by p.id
            fetch first 101 rows only
            """)
    List<PayoutRow> openPayouts(long after);

    @HQL("""
            select p.id, r.number, c.code, c.name, r.sourceKind, r.sourceNumber, r.amount, r.refundedOn, p.state,
                p.tries, p.reference, p.answer, p.version
            from PayoutEntity p
            join RefundEntity r on r.id = p.refundId
            join CustomerEntity c on c.id = r.customerId
            where r.number = :refund
            """)
    PayoutRow payout(String refund);

    /** What money was before. */
    record OriginRow(String number, DocumentKind kind, String origin) {}

    /** What paid the invoice of a credit note. */
    @HQL("""
            select distinct k.number, p.kind, p.number
            from CreditNoteEntity k
            join AllocationEntity a on a.invoiceId = k.invoiceId
            join PaymentEntity p on p.id = a.paymentId
            where :numbers contains k.number and p.number <> k.number
            """)
    List<OriginRow> paidInvoiceOf(String[] numbers);

    record DepositOriginRow(String number, String deposit) {}

    /** The deposits that paid the invoice of a credit note. */
    @HQL("""
            select distinct k.number, d.number
            from CreditNoteEntity k
            join DepositUseEntity u on u.invoiceId = k.invoiceId
            join DepositEntity d on d.id = u.depositId
            where :numbers contains k.number
            """)
    List<DepositOriginRow> depositedForInvoiceOf(String[] numbers);

    /** The deposits that deposits were moved from. */
    @HQL("""
            select d.number, m.number
            from DepositEntity d
            join DepositEntity m on m.id = d.movedFrom
            where :numbers contains d.number
            """)
    List<DepositOriginRow> movedFrom(String[] numbers);
}
