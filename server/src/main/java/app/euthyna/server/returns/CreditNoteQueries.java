package app.euthyna.server.returns;

import app.euthyna.core.shared.Vat;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface CreditNoteQueries {
    StatelessSession session();

    record LineRow(
            int lineNo,
            int invoiceLineNo,
            String order,
            String goodsReturn,
            String itemCode,
            String description,
            BigDecimal quantity,
            BigDecimal net,
            BigDecimal fee,
            BigDecimal feePercent,
            Vat.Category vatCategory,
            BigDecimal vatRate) {}

    record BandRow(Vat.Category vatCategory, BigDecimal vatRate, BigDecimal taxable, BigDecimal tax) {}

    record SettledRow(String invoice, BigDecimal amount, LocalDate allocatedOn) {}

    record RefundedRow(String number, BigDecimal amount, LocalDate refundedOn) {}

    record HeaderRow(
            String number,
            String customer,
            String customerName,
            String invoice,
            LocalDate creditedOn,
            String reason,
            BigDecimal net,
            BigDecimal vat,
            BigDecimal gross,
            BigDecimal leftAmount,
            String wish,
            LocalDate reversedOn,
            long version) {}

    @HQL("""
            select l.lineNo, l.invoiceLineNo, o.number, g.number, l.itemCode, l.description, l.quantity, l.net,
                l.fee, l.feePercent, l.vatCategory, l.vatRate
            from CreditNoteEntity k
            join CreditNoteLineEntity l on l.creditNoteId = k.id
            join OrderEntity o on o.id = l.rootOrderId
            left join ReturnEntity g on g.id = l.returnId
            where k.number = :number
            order by l.lineNo
            """)
    List<LineRow> lines(String number);

    @HQL("""
            select v.vatCategory, v.vatRate, v.taxable, v.tax
            from CreditNoteEntity k
            join CreditNoteVatEntity v on v.creditNoteId = k.id
            where k.number = :number
            order by v.vatCategory, v.vatRate
            """)
    List<BandRow> bands(String number);

    @HQL("""
            select i.number, sum(a.amount), max(a.allocatedOn)
            from PaymentEntity p
            join AllocationEntity a on a.paymentId = p.id
            join InvoiceEntity i on i.id = a.invoiceId
            where p.number = :number and a.discount = false
            group by i.id, i.number
            having sum(a.amount) <> 0
            order by max(a.allocatedOn), i.id
            """)
    List<SettledRow> settled(String number);

    @HQL("""
            select r.number, r.amount, r.refundedOn
            from RefundEntity r
            where r.sourceKind = 'CREDIT_NOTE' and r.sourceNumber = :sourceNumber and r.reversedOn is null
            order by r.id
            """)
    List<RefundedRow> refunds(String sourceNumber);

    @HQL("""
            select k.number, c.code, c.name, i.number, k.creditedOn, k.reason, k.net, k.vat, k.gross, p.leftAmount,
                k.wish, k.reversedOn, p.version
            from CreditNoteEntity k
            join CustomerEntity c on c.id = k.customerId
            join InvoiceEntity i on i.id = k.invoiceId
            join PaymentEntity p on p.number = k.number
            where k.number = :number
            """)
    Optional<HeaderRow> header(String number);

    record ListedRow(
            long id,
            String number,
            String customer,
            String customerName,
            String invoice,
            LocalDate creditedOn,
            String reason,
            BigDecimal gross,
            BigDecimal leftAmount,
            LocalDate reversedOn) {}

    /** Credit notes, newest first; what is null does not matter. */
    default List<ListedRow> page(String customer, String wish, boolean open, Long before) {
        return Listing.of(session(), ListedRow.class, """
                        select k.id, k.number, c.code, c.name, i.number, k.creditedOn, k.reason, k.gross, p.leftAmount,
                            k.reversedOn
                        from CreditNoteEntity k
                        join CustomerEntity c on c.id = k.customerId
                        join InvoiceEntity i on i.id = k.invoiceId
                        join PaymentEntity p on p.number = k.number
                        """)
                .where("c.code = :customer", customer)
                .where("k.wish = :wish", wish)
                .whereIf(open, "p.leftAmount >= 0.0001bd")
                .where("k.id < :before", before)
                .then("order by k.id desc")
                .page();
    }
}
