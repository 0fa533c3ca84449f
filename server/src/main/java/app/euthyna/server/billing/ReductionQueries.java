package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What of invoices is settled without money. */
@Transactional
interface ReductionQueries {
    StatelessSession session();

    record ReducedRow(ReductionEntity reduction, String invoice, DocumentKind kind, String number, String customer) {}

    /** What stands of invoices. */
    @HQL("""
            select r, i.number, p.kind, p.number, c.code
            from ReductionEntity r
            join InvoiceEntity i on i.id = r.invoiceId
            join PaymentEntity p on p.id = r.paymentId
            join CustomerEntity c on c.id = r.customerId
            where :invoices contains r.invoiceId and r.reversedOn is null
            order by r.id
            """)
    List<ReducedRow> standing(Long[] invoices);

    /** The discounts that were taken with money. */
    @HQL("""
            select r, i.number, p.kind, p.number, c.code
            from ReductionEntity r
            join InvoiceEntity i on i.id = r.invoiceId
            join PaymentEntity p on p.id = r.paymentId
            join CustomerEntity c on c.id = r.customerId
            where :payments contains p.number and r.kind = 'DISCOUNT' and r.reversedOn is null
            order by r.id
            """)
    List<ReducedRow> discountsOf(String[] payments);

    @HQL(
            "select v from ReductionVatEntity v where :reductions contains v.reductionId order by v.vatCategory, v.vatRate")
    List<ReductionVatEntity> shares(Long[] reductions);

    record OrderRow(long invoiceId, String order) {}

    /** The orders that stand on invoices. */
    @HQL("""
            select distinct l.invoiceId, o.number
            from InvoiceLineEntity l
            join OrderEntity o on o.id = l.rootOrderId
            where :invoices contains l.invoiceId
            """)
    List<OrderRow> orders(Long[] invoices);

    record CreditedRow(long invoiceId, String credit) {}

    /** Credit notes that are less the share of a discount on their invoice. */
    @HQL("""
            select distinct k.invoiceId, k.number
            from CreditNoteEntity k
            join CreditNoteVatEntity v on v.creditNoteId = k.id
            where :invoices contains k.invoiceId and k.reversedOn is null and (v.discountNet <> 0 or v.discountTax <> 0)
            order by k.number
            """)
    List<CreditedRow> lessDiscount(Long[] invoices);

    @HQL("select i from InvoiceEntity i where i.number = :number")
    InvoiceEntity invoice(String number);

    @HQL("select p from PaymentEntity p where p.number = :number")
    PaymentEntity payment(String number);

    @HQL("""
            select r
            from ReductionEntity r
            join PaymentEntity p on p.id = r.paymentId
            join InvoiceEntity i on i.id = r.invoiceId
            where p.number = :payment and i.number = :invoice and r.kind = :kind and r.reversedOn is null
            """)
    ReductionEntity standingOf(String payment, String invoice, Reduction.Kind kind);

    @HQL("select i.version from InvoiceEntity i where i.number = :number")
    Optional<Long> versionOfInvoice(String number);

    record ByPersonRow(String byUser, BigDecimal amount) {}

    /** What each person wrote off for a customer, by the day on which it was written. */
    @HQL("""
            select h.byUser, sum(r.amount)
            from ReductionEntity r
            join CustomerEntity c on c.id = r.customerId
            join HistoryEntity h on h.moment = r.moment
            where c.code = :customer and r.kind in ('SMALL_DIFFERENCE', 'BAD_DEBT') and r.reversedOn is null
            and h.writtenOn >= :since
            group by h.byUser
            """)
    List<ByPersonRow> byPerson(String customer, LocalDate since);

    /** What anybody wrote off of an invoice. */
    @HQL("""
            select coalesce(sum(r.amount), 0)
            from ReductionEntity r
            join InvoiceEntity i on i.id = r.invoiceId
            join HistoryEntity h on h.moment = r.moment
            where i.number = :invoice and r.kind in ('SMALL_DIFFERENCE', 'BAD_DEBT') and r.reversedOn is null
            and h.writtenOn >= :since
            """)
    BigDecimal ofInvoice(String invoice, LocalDate since);

    record WriteOffRow(
            long id,
            Reduction.Kind kind,
            String number,
            String customer,
            String customerName,
            String invoice,
            LocalDate reducedOn,
            BigDecimal amount,
            BigDecimal tax,
            String reason,
            String byUser,
            LocalDate reversedOn) {}

    /** What was written off, newest first; what is null does not matter. */
    default List<WriteOffRow> writeOffs(
            String number, Reduction.Kind kind, String invoice, LocalDate since, LocalDate until, Long before) {
        return Listing.of(session(), WriteOffRow.class, """
                        select r.id, r.kind, p.number, c.code, c.name, i.number, r.reducedOn, r.amount,
                            coalesce((select sum(v.tax) from ReductionVatEntity v where v.reductionId = r.id), 0),
                            r.reason, h.byUser, r.reversedOn
                        from ReductionEntity r
                        join PaymentEntity p on p.id = r.paymentId
                        join CustomerEntity c on c.id = r.customerId
                        join InvoiceEntity i on i.id = r.invoiceId
                        left join HistoryEntity h on h.moment = r.moment
                        """)
                .where("r.kind in ('SMALL_DIFFERENCE', 'BAD_DEBT')")
                .where("p.number = :number", number)
                .where("r.kind = :kind", kind)
                .where("i.number = :invoice", invoice)
                .where("r.reducedOn >= :since", since)
                .where("r.reducedOn <= :until", until)
                .where("r.id < :before", before)
                .then("order by r.id desc")
                .page();
    }

    record OfInvoiceRow(
            Reduction.Kind kind,
            DocumentKind documentKind,
            String number,
            LocalDate reducedOn,
            BigDecimal amount,
            BigDecimal tax,
            String reason) {}

    /** What stands of an invoice, for whoever looks at it. */
    @HQL("""
            select r.kind, p.kind, p.number, r.reducedOn, r.amount,
                coalesce((select sum(v.tax) from ReductionVatEntity v where v.reductionId = r.id), 0), r.reason
            from ReductionEntity r
            join PaymentEntity p on p.id = r.paymentId
            join InvoiceEntity i on i.id = r.invoiceId
            where i.number = :invoice and r.reversedOn is null
            order by r.id
            """)
    List<OfInvoiceRow> ofInvoice(String invoice);
}
