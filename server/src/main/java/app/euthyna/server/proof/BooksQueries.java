package app.euthyna.server.proof;

import app.euthyna.core.proof.Statement.Failure;
import app.euthyna.core.shared.Figures;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/**
 * How many documents and lines a proof of the books looks at, and the sums that it holds against each other. What does
 * not agree line by line it asks in SQL of its own ({@link BooksProof}).
 */
@Transactional
interface BooksQueries {
    StatelessSession session();

    @HQL("select count(*) from OrderEntity")
    long orders();

    @HQL("select count(*) from OrderEntity o where o.po <> ''")
    long ordersWithPo();

    @HQL("select count(*) from OrderLineEntity l where l.removed = false")
    long orderLines();

    @HQL("select count(*) from ShelfEntity")
    long shelves();

    @HQL("select count(*) from DispatchLineEntity")
    long dispatchLines();

    @HQL("select count(*) from InvoiceEntity")
    long invoices();

    @HQL("select count(*) from InvoiceLineEntity")
    long invoiceLines();

    @HQL("select count(*) from CreditNoteEntity")
    long creditNotes();

    @HQL("select count(*) from PaymentEntity")
    long payments();

    @HQL("select count(*) from DepositEntity")
    long deposits();

    @HQL("select count(*) from JournalEntryEntity")
    long entries();

    @HQL("select count(*) from JournalEntryEntity e where e.mirrors is not null")
    long mirrors();

    @HQL("select count(*) from HistoryEntity h where h.event in ('departed', 'invoiced')")
    long departedAndInvoiced();

    record OpenOfCustomerRow(
            String customer,
            BigDecimal should,
            BigDecimal still,
            long shouldInvoices,
            long invoices,
            @Nullable LocalDate shouldOldest,
            @Nullable LocalDate oldest) {
        Failure failure() {
            return new Failure(
                    customer,
                    should,
                    still,
                    "Customer %s has %s open on %d invoices, the first due on %s; what is kept of it says %s, %d, %s."
                            .formatted(
                                    customer,
                                    Figures.plain(should),
                                    shouldInvoices,
                                    shouldOldest == null ? "no day" : shouldOldest,
                                    Figures.plain(still),
                                    invoices,
                                    oldest == null ? "no day" : oldest));
        }
    }

    /** Customers of whom something else is kept than their invoices have open; no more than are named. */
    @HQL("""
            select c.code, coalesce(x.should, 0), coalesce(k.still, 0), coalesce(x.invoices, 0),
                coalesce(k.invoices, 0), x.oldest, k.oldestDueOn
            from CustomerEntity c
            left join (select i.customerId as id, sum(i.openAmount) as should, count(*) as invoices,
                min(i.dueOn) as oldest from InvoiceEntity i where i.openAmount <> 0 group by i.customerId) x
                on x.id = c.id
            left join CustomerOpenEntity k on k.id = c.id
            where coalesce(x.should, 0) <> coalesce(k.still, 0) or coalesce(x.invoices, 0) <> coalesce(k.invoices, 0)
            or x.oldest <> k.oldestDueOn
            order by c.id fetch first 20 rows only
            """)
    List<OpenOfCustomerRow> openOfCustomers();

    @HQL("select coalesce(sum(l.amount), 0) from JournalLineEntity l where l.role = :role")
    BigDecimal inLedger(String role);

    @HQL("""
            select coalesce(sum(i.gross), 0) - (select coalesce(sum(a.amount), 0) from AllocationEntity a)
                - (select coalesce(sum(u.amount), 0) from DepositUseEntity u where u.kind = 'APPLIED')
            from InvoiceEntity i
            where i.reversedOn is null
            """)
    BigDecimal receivables();

    @HQL("select coalesce(sum(s.stockValue), 0) from ShelfEntity s")
    BigDecimal stockValue();

    @HQL("""
            select coalesce(sum(p.cost), 0) - (select coalesce(sum(o.cost), 0) from ReturnOutcomeEntity o)
            from ReturnPartEntity p
            """)
    BigDecimal inInspection();

    @HQL("""
            select coalesce(sum(case when p.reversed then 0 else p.amount - p.refunded end), 0)
                - (select coalesce(sum(a.amount), 0) from AllocationEntity a where a.discount = false)
            from PaymentEntity p
            """)
    BigDecimal customerCredit();

    @HQL(
            "select coalesce(sum(d.amount), 0) - (select coalesce(sum(u.amount), 0) from DepositUseEntity u) from DepositEntity d")
    BigDecimal unappliedDeposits();

    @HQL("""
            select (select coalesce(sum(k.vat), 0) from CreditNoteEntity k where k.reversedOn is null)
                + (select coalesce(sum(v.tax), 0)
                    from ReductionVatEntity v
                    join ReductionEntity r on r.id = v.reductionId
                    where r.reversedOn is null)
                - coalesce(sum(i.vat), 0)
            from InvoiceEntity i
            where i.reversedOn is null
            """)
    BigDecimal outputVat();

    /** Cost of goods that left and are neither billed nor back nor given away. */
    @HQL("""
            select coalesce(sum(x.cost), 0) - (select coalesce(sum(s.cost), 0)
                    from InvoiceLineSourceEntity s
                    join InvoiceLineEntity b on b.id = s.invoiceLineId
                    join InvoiceEntity i on i.id = b.invoiceId
                    where i.reversedOn is null)
                - (select coalesce(sum(p.cost), 0) from ReturnPartEntity p where p.standing = 'UNBILLED')
                + (select coalesce(sum(k.cost), 0)
                    from ReturnOutcomeEntity k
                    join ReturnPartEntity q on q.id = k.partId
                    where q.standing = 'UNBILLED' and k.kind = 'SEND_BACK')
            from DispatchEntity d
            join DispatchLineEntity x on x.dispatchId = d.id
            join OrderEntity o on o.id = d.orderId
            join OrderLineEntity l on l.orderId = x.rootOrderId and l.lineNo = x.orderLineNo
            where d.state = 'DEPARTED'
            and not (o.kind in ('SAMPLE', 'REPLACEMENT') and (l.unitPrice = 0 or l.discountPercent = 100))
            """)
    BigDecimal goodsOut();

    /** What was billed ahead of its goods and is not earned or credited. */
    @HQL("""
            select coalesce(sum(l.deferred), 0) - (select coalesce(sum(k.deferred), 0)
                    from CreditNoteLineEntity k
                    join CreditNoteEntity n on n.id = k.creditNoteId
                    where n.reversedOn is null)
                - (select coalesce(sum(s.earned), 0)
                    from InvoiceLineSourceEntity s
                    join InvoiceLineEntity x on x.id = s.invoiceLineId
                    join InvoiceEntity h on h.id = x.invoiceId
                    where h.reversedOn is null)
            from InvoiceLineEntity l
            join InvoiceEntity i on i.id = l.invoiceId
            where i.reversedOn is null
            """)
    BigDecimal unearned();

    @HQL("select h.lastHash from LedgerHeadEntity h where h.id = 1")
    String lastHash();

    @HQL("""
            select d.entryDate, d.role, d.documentKind, d.event, d.account, d.debit, d.credit
            from JournalDayEntity d
            order by d.entryDate, d.role, d.account
            """)
    List<HashChain.KeptDay> days();
}
