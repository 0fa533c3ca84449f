package app.euthyna.server.billing;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface PaymentQueries {
    StatelessSession session();

    record CreditRow(DocumentKind kind, String number, BigDecimal leftAmount) {}

    record SettledRow(String invoice, BigDecimal amount) {}

    record SourceRow(
            DocumentKind kind,
            String customer,
            BigDecimal amount,
            BigDecimal leftAmount,
            BigDecimal refunded,
            boolean reversed) {}

    @HQL("update PaymentEntity p set p.reference = :reference where p.number = :number")
    int refer(String reference, String number);

    @HQL("""
            select p.kind, p.number, p.leftAmount
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where c.code = :code and p.leftAmount >= 0.0001bd and (:number = '' or p.number = :number)
            order by p.id
            """)
    List<CreditRow> credits(String code, String number);

    @HQL("select count(*) from DepositEntity d where d.number = :number and d.leftAmount >= 0.0001bd")
    long unapplied(String number);

    @HQL("select o.number from DepositEntity d join OrderEntity o on o.id = d.orderId where d.number = :number")
    Optional<String> orderOfDeposit(String number);

    @HQL("""
            select c.code
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where p.number = :number
            """)
    Optional<String> customerOf(String number);

    @HQL("""
            select i.number, sum(a.amount)
            from AllocationEntity a
            join PaymentEntity p on p.id = a.paymentId
            join InvoiceEntity i on i.id = a.invoiceId
            where p.number = :number and a.discount = false
            group by i.id, i.number
            order by i.id
            """)
    List<SettledRow> settled(String number);

    @HQL("""
            select p.kind, c.code, p.amount, p.leftAmount, p.refunded, p.reversed
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where p.number = :number
            """)
    SourceRow source(String number);

    @HQL("select count(*) from DepositRequestEntity dr where dr.orderId = :orderId")
    long depositRequests(long orderId);

    record AskedRow(BigDecimal percent, BigDecimal amount, LocalDate askedOn, String askedBy, BigDecimal received) {}

    record UseRow(
            DepositFact.Kind kind,
            DocumentKind documentKind,
            String documentNumber,
            BigDecimal amount,
            LocalDate usedOn) {}

    @HQL("""
            select r.percent, r.amount, r.askedOn, r.askedBy, (select coalesce(sum(d.amount), 0) from DepositEntity
                d where d.orderId = r.orderId)
            from DepositRequestEntity r
            where r.orderId = :orderId
            """)
    Optional<AskedRow> asked(long orderId);

    @HQL("""
            select du.kind, du.documentKind, du.documentNumber, du.amount, du.usedOn
            from DepositUseEntity du
            where du.depositId = :depositId
            order by du.id
            """)
    List<UseRow> uses(long depositId);

    @HQL("select d.version from DepositEntity d where d.number = :number")
    long versionOfDeposit(String number);

    @HQL("select p.version from PaymentEntity p where p.number = :number")
    long versionOfPayment(String number);

    @HQL("select d from DepositEntity d where d.number = :number")
    DepositEntity deposit(String number);

    @HQL("select p from PaymentEntity p where p.number = :number")
    Optional<PaymentEntity> payment(String number);

    @HQL("select i from InvoiceEntity i where i.number = :number")
    InvoiceEntity invoice(String number);

    @HQL("select r from RefundEntity r where r.number = :number")
    RefundEntity refund(String number);

    @HQL("""
            select l from InvoiceLineEntity l join InvoiceEntity i on i.id = l.invoiceId
            where i.number = :invoice and l.lineNo = :line
            """)
    InvoiceLineEntity invoiceLine(String invoice, int line);

    record DepositRow(
            long id,
            String number,
            String order,
            String customer,
            String customerName,
            LocalDate receivedOn,
            BigDecimal amount,
            BigDecimal leftAmount,
            String movedFrom,
            long version) {}

    /** Deposits, newest first; what is null does not matter. */
    default List<DepositRow> deposits(String number, boolean open, String customer, String order, Long before) {
        return Listing.of(session(), DepositRow.class, """
                        select d.id, d.number, o.number, c.code, c.name, d.receivedOn, d.amount, d.leftAmount, m.number, d.version
                        from DepositEntity d
                        join OrderEntity o on o.id = d.orderId
                        join CustomerEntity c on c.id = d.customerId
                        left join DepositEntity m on m.id = d.movedFrom
                        """)
                .where("d.number = :number", number)
                .whereIf(open, "d.leftAmount >= 0.0001bd")
                .where("c.code = :customer", customer)
                .where("o.number = :order", order)
                .where("d.id < :before", before)
                .then("order by d.id desc")
                .page();
    }

    record RefundRow(
            long id,
            String number,
            String customer,
            String customerName,
            DocumentKind sourceKind,
            String sourceNumber,
            BigDecimal amount,
            LocalDate refundedOn,
            String reason,
            LocalDate reversedOn,
            String payout) {}

    /** Refunds, newest first; what is null does not matter. */
    default List<RefundRow> refunds(String number, Long before) {
        return Listing.of(session(), RefundRow.class, """
                        select r.id, r.number, c.code, c.name, r.sourceKind, r.sourceNumber, r.amount, r.refundedOn,
                            r.reason, r.reversedOn, p.state
                        from RefundEntity r
                        join CustomerEntity c on c.id = r.customerId
                        left join PayoutEntity p on p.refundId = r.id
                        """)
                .where("r.number = :number", number)
                .where("r.id < :before", before)
                .then("order by r.id desc")
                .page();
    }
}
