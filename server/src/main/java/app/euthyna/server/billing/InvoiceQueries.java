package app.euthyna.server.billing;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.DocumentKind;
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
interface InvoiceQueries {
    StatelessSession session();

    record GoneRow(int lineNo, String dispatch, BigDecimal quantity) {}

    record LineRow(
            int lineNo,
            String order,
            int orderLineNo,
            String itemCode,
            String description,
            BigDecimal quantity,
            BigDecimal unitPrice,
            BigDecimal discountPercent,
            BigDecimal net,
            Vat.Category vatCategory,
            BigDecimal vatRate,
            String po,
            LineKind kind) {}

    record HeaderRow(
            String number,
            String customer,
            String customerName,
            LocalDate invoicedOn,
            LocalDate dueOn,
            BigDecimal net,
            BigDecimal vat,
            BigDecimal gross,
            BigDecimal openAmount,
            long version,
            String text,
            boolean reversed,
            BigDecimal earlyPercent,
            LocalDate earlyUntil,
            boolean disputed) {}

    record SettledRow(String invoice, BigDecimal amount) {}

    @HQL("""
            select coalesce(sum(p.leftAmount), 0)
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where c.code = :code and p.leftAmount >= 0.0001bd
            """)
    BigDecimal credit(String code);

    @HQL("""
            select l.lineNo, d.number, s.quantity
            from InvoiceEntity i
            join InvoiceLineEntity l on l.invoiceId = i.id
            join InvoiceLineSourceEntity s on s.invoiceLineId = l.id
            join DispatchEntity d on d.id = s.dispatchId
            where i.number = :number
            order by s.id
            """)
    List<GoneRow> gone(String number);

    @HQL("""
            select l.lineNo, o.number, l.orderLineNo, l.itemCode, l.description, l.quantity, l.unitPrice,
                l.discountPercent, l.net, l.vatCategory, l.vatRate, o.po, l.kind
            from InvoiceEntity i
            join InvoiceLineEntity l on l.invoiceId = i.id
            join OrderEntity o on o.id = l.rootOrderId
            where i.number = :number
            order by l.lineNo
            """)
    List<LineRow> lines(String number);

    @HQL("""
            select i.number, c.code, c.name, i.invoicedOn, i.dueOn, i.net, i.vat, i.gross, i.openAmount, i.version,
                i.text, i.reversedOn is not null, i.earlyPercent, i.earlyUntil, i.disputed
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where i.number = :number
            """)
    Optional<HeaderRow> header(String number);

    @HQL("""
            select i.number, sum(a.amount)
            from PaymentEntity p
            join AllocationEntity a on a.paymentId = p.id
            join InvoiceEntity i on i.id = a.invoiceId
            where p.number = :number and a.discount = false
            group by i.id, i.number
            having sum(a.amount) <> 0
            order by i.id
            """)
    List<SettledRow> settled(String number);

    @HQL("""
            select coalesce(sum(l.quantity), 0)
            from CreditNoteLineEntity l
            join CreditNoteEntity c on c.id = l.creditNoteId
            join InvoiceEntity i on i.id = c.invoiceId
            join ReturnEntity g on g.id = l.returnId
            where g.number = :goods and l.returnLineNo = :goodsLine and i.number = :invoice and l.invoiceLineNo = :line
            and c.reversedOn is null
            """)
    BigDecimal credited(String goods, Integer goodsLine, String invoice, int line);

    @HQL("""
            select min(o.number)
            from ReturnLineEntity l
            join ReturnEntity g on g.id = l.returnId
            join OrderEntity o on o.id = l.rootOrderId
            where g.number = :number
            """)
    Optional<String> firstOrderOfReturn(String number);

    @HQL("""
            select f.brief
            from FindingEntity f
            join OrderEntity o on o.id = f.orderId
            where o.number = :number and f.state = 'OPEN'
            order by f.id
            """)
    List<String> openFindings(String number);

    record DunnedRow(String invoice, LocalDate dueOn, BigDecimal openAmount, int step, LocalDate remindedOn) {}

    @HQL("select r.step from ReminderEntity r where r.id = :id")
    Optional<Integer> reminderStep(long id);

    @HQL("""
            select i.number, i.dueOn, r.openAmount, r.step, m.remindedOn
            from ReminderInvoiceEntity r
            join ReminderEntity m on m.id = r.reminderId
            join InvoiceEntity i on i.id = r.invoiceId
            where r.reminderId = :reminderId
            order by i.dueOn, i.id
            """)
    List<DunnedRow> dunned(long reminderId);

    @HQL("select c.name from CustomerEntity c where c.id = :id")
    String customerName(long id);

    record PaymentRow(
            long id,
            String number,
            DocumentKind kind,
            String customer,
            String customerName,
            LocalDate receivedOn,
            BigDecimal amount,
            BigDecimal leftAmount,
            BigDecimal refunded,
            boolean reversed,
            String reference,
            long version) {}

    @HQL("""
            select p.id, p.number, p.kind, c.code, c.name, p.receivedOn, p.amount, p.leftAmount, p.refunded, p.reversed,
                p.reference, p.version
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where p.number = :number and p.kind <> 'WRITE_OFF'
            """)
    Optional<PaymentRow> payment(String number);

    @HQL("""
            select p.id, p.number, p.kind, c.code, c.name, p.receivedOn, p.amount, p.leftAmount, p.refunded, p.reversed,
                p.reference, p.version
            from PaymentEntity p
            join CustomerEntity c on c.id = p.customerId
            where p.id < :before and p.kind <> 'WRITE_OFF'
            order by p.id desc
            fetch first 101 rows only
            """)
    List<PaymentRow> payments(long before);

    record InvoiceRow(
            long id,
            String number,
            String customer,
            String customerName,
            LocalDate invoicedOn,
            LocalDate dueOn,
            BigDecimal gross,
            BigDecimal openAmount,
            LocalDate reversedOn,
            BigDecimal earlyPercent,
            LocalDate earlyUntil,
            boolean disputed) {}

    /** Invoices, newest first; what is null does not matter. */
    default List<InvoiceRow> page(String customer, boolean open, LocalDate dueBefore, Long before) {
        return Listing.of(session(), InvoiceRow.class, """
                        select i.id, i.number, c.code, c.name, i.invoicedOn, i.dueOn, i.gross, i.openAmount, i.reversedOn,
                            i.earlyPercent, i.earlyUntil, i.disputed
                        from InvoiceEntity i
                        join CustomerEntity c on c.id = i.customerId
                        """)
                .where("c.code = :customer", customer)
                .whereIf(open, "i.openAmount >= 0.0001bd")
                .where("i.dueOn < :dueBefore", dueBefore)
                .where("i.id < :before", before)
                .then("order by i.id desc")
                .page();
    }

    record LeftRow(String number, BigDecimal gross, BigDecimal credited) {}

    /** Invoices on which no discount was taken, with what is credited of them. */
    @HQL("""
            select i.number, i.gross, coalesce((select sum(k.gross) from CreditNoteEntity k where k.invoiceId = i.id
                and k.reversedOn is null), 0)
            from InvoiceEntity i
            where :numbers contains i.number
            and not exists (select 1 from ReductionEntity r where r.invoiceId = i.id and r.kind = 'DISCOUNT'
                and r.reversedOn is null)
            """)
    List<LeftRow> leftToDiscount(String[] numbers);

    record OverdueRow(String number, LocalDate dueOn, BigDecimal still, Integer step, LocalDate remindedOn) {}

    /** Invoices with how often a customer was reminded of them by {@code :day}. */
    String WITH_STEPS = """
            select i.number, i.dueOn, i.still -\s""" + OpenInvoices.DISPUTED + """
            , coalesce((select max(r.step) from ReminderInvoiceEntity r
                join ReminderEntity m on m.id = r.reminderId where r.invoiceId = i.id and m.remindedOn <= :day), 0),
                (select max(m.remindedOn) from ReminderInvoiceEntity r join ReminderEntity m on m.id = r.reminderId
                where r.invoiceId = i.id and m.remindedOn <= :day)
            from\s""";

    /** Those of a customer that were overdue. */
    String OVERDUE = """
            where i.customerId = :customer and i.dueOn < :day and i.still > 0 and i.still >\s""" + OpenInvoices.DISPUTED + """
            order by i.dueOn, i.id
            fetch first 500 rows only
            """;

    @HQL(WITH_STEPS + OpenInvoices.ON_DAY + OVERDUE)
    List<OverdueRow> overdueOn(long customer, LocalDate day);

    @HQL(WITH_STEPS + OpenInvoices.TODAY + OVERDUE)
    List<OverdueRow> overdueToday(long customer, LocalDate day);

    record AmountRow(String number, BigDecimal openAmount) {}

    @HQL("select i.number, i.openAmount from InvoiceEntity i where :numbers contains i.number")
    List<AmountRow> openAmounts(String[] numbers);

    record OpenRow(String number, String customer, BigDecimal gross, BigDecimal openAmount) {}

    @HQL("""
            select i.number, c.code, i.gross, i.openAmount
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where :numbers contains i.number
            """)
    List<OpenRow> numbered(String[] numbers);

    @HQL("""
            select i.number, c.code, i.gross, i.openAmount
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where i.id in (select l.invoiceId from InvoiceLineEntity l where l.rootOrderId = :order)
            and i.openAmount >= 0.0001bd
            order by i.id
            """)
    List<OpenRow> openOfOrder(long order);

    record OpenOfCustomerRow(long invoices, BigDecimal still, LocalDate oldestDueOn) {}

    @HQL("""
            select count(*), sum(i.openAmount), min(i.dueOn)
            from InvoiceEntity i
            where i.customerId = :customerId and i.openAmount >= 0.0001bd
            """)
    OpenOfCustomerRow openOfCustomer(long customerId);

    @HQL("delete from CustomerOpenEntity k where k.id = :customerId")
    int owesNothing(long customerId);

    /** What a customer owed before a day. */
    @HQL("""
            select coalesce(sum(l.amount), 0)
            from JournalEntryEntity e
            join JournalLineEntity l on l.entryId = e.id
            where e.customerId = :customer and e.entryDate < :day
            and l.role in ('receivables', 'customer_credit', 'deposits')
            """)
    BigDecimal owedBefore(Long customer, LocalDate day);

    /** Entries that moved what a customer owes. */
    @HQL("""
            select e.id, e.entryDate, e.documentKind, e.documentNumber, e.event, sum(l.amount)
            from JournalEntryEntity e
            join JournalLineEntity l on l.entryId = e.id
            where e.customerId = :customer and e.entryDate >= :from and e.entryDate <= :to
            and l.role in ('receivables', 'customer_credit', 'deposits')
            group by e.id, e.entryDate, e.documentKind, e.documentNumber, e.event
            having sum(l.amount) <> 0
            order by e.entryDate, e.id
            fetch first :most rows only
            """)
    List<Statements.Moved> owed(Long customer, LocalDate from, LocalDate to, int most);

    record OpenItemRow(
            String number,
            LocalDate invoicedOn,
            LocalDate dueOn,
            BigDecimal gross,
            BigDecimal still,
            BigDecimal disputed) {}

    /** What was open of a customer's invoices on a day. */
    @HQL("""
            select i.number, i.invoicedOn, i.dueOn, i.gross, i.still,\s""" + OpenInvoices.DISPUTED + """
            from (select n.number as number, n.invoicedOn as invoicedOn, n.dueOn as dueOn, n.gross as gross,
                n.id as id,
            """ + OpenInvoices.STILL + """
            as still
                from InvoiceEntity n where n.customerId = :customer and n.invoicedOn <= :day) i
            where i.still <> 0
            order by i.dueOn, i.id
            fetch first :most rows only
            """)
    List<OpenItemRow> openItems(long customer, LocalDate day, int most);

    @HQL("select o.orderedOn from OrderEntity o where o.number = :number")
    Optional<LocalDate> dateOfOrder(String number);

    @HQL("select coalesce(d.departedOn, d.stagedOn) from DispatchEntity d where d.number = :number")
    Optional<LocalDate> dateOfDispatch(String number);

    @HQL("select i.disputed from InvoiceEntity i where i.number = :number")
    boolean disputed(String number);

    @HQL("select i.invoicedOn from InvoiceEntity i where i.number = :number")
    Optional<LocalDate> dateOfInvoice(String number);

    @HQL("select d.receivedOn from DepositEntity d where d.number = :number")
    Optional<LocalDate> dateOfDeposit(String number);

    @HQL("select r.refundedOn from RefundEntity r where r.number = :number")
    Optional<LocalDate> dateOfRefund(String number);

    @HQL("select p.receivedOn from PaymentEntity p where p.number = :number")
    Optional<LocalDate> dateOfPayment(String number);

    @HQL("""
            select max(a.allocatedOn)
            from AllocationEntity a
            join PaymentEntity p on p.id = a.paymentId
            where p.number = :number and a.amount < 0
            """)
    LocalDate takenOff(String number);

    @HQL("""
            select max(u.usedOn)
            from DepositUseEntity u
            join DepositEntity d on d.id = u.depositId
            where d.number = :number and (u.kind = 'CREDITED' or u.amount < 0)
            """)
    LocalDate depositSetFree(String number);

    @HQL("""
            select max(a.allocatedOn)
            from AllocationEntity a
            join PaymentEntity p on p.id = a.paymentId
            join InvoiceEntity i on i.id = a.invoiceId
            where p.number = :number and i.number = :invoice and a.amount > 0
            """)
    LocalDate paid(String number, String invoice);

    @HQL("""
            select max(u.usedOn)
            from DepositUseEntity u
            join DepositEntity d on d.id = u.depositId
            join InvoiceEntity i on i.id = u.invoiceId
            where d.number = :number and i.number = :invoice and u.kind = 'APPLIED' and u.amount > 0
            """)
    LocalDate depositApplied(String number, String invoice);

    @HQL("update ReminderEntity r set r.messageId = :message where r.id = :reminder")
    int sent(Long message, long reminder);
}
