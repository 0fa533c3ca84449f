package app.euthyna.server.paper;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface PaperQueries {
    StatelessSession session();

    record CarrierRow(String carrier, String carrierReference) {}

    @HQL("""
            select c.name, c.street, c.postcode, c.town, c.country, c.vatId, c.iban
            from CompanyEntity c
            where c.id = 1
            """)
    Letterhead.House house();

    @HQL("""
            select c.code, c.name, c.street, c.postcode, c.town, c.country, c.vatId
            from CustomerEntity c
            where c.code = :code
            """)
    Optional<Letterhead.Party> party(String code);

    @HQL("""
            select o.number
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            where d.number = :number
            """)
    Optional<String> orderOfDispatch(String number);

    @HQL("select d.carrier, d.carrierReference from DispatchEntity d where d.number = :number")
    CarrierRow carrier(String number);

    @HQL("""
            select coalesce(sum(u.amount), 0)
            from DepositUseEntity u
            join InvoiceEntity i on i.id = u.invoiceId
            where i.number = :number
            """)
    BigDecimal deposited(String number);

    @HQL("""
            select coalesce(sum(a.amount), 0)
            from AllocationEntity a
            join PaymentEntity p on p.id = a.paymentId
            join InvoiceEntity i on i.id = a.invoiceId
            where p.number = :payment and i.number = :invoice
            """)
    BigDecimal settledBy(String payment, String invoice);

    record SheetRow(String paper, String documentNumber, int copyNo) {}

    @HQL("select count(*) from PrintingEntity p where p.paper = :paper and p.documentNumber = :documentNumber")
    long printed(String paper, String documentNumber);

    @HQL("""
            select p.paper, p.documentNumber, p.copyNo
            from PrintingEntity p
            where p.runId = :runId
            order by p.id
            """)
    List<SheetRow> sheets(long runId);

    @HQL("select c.email from CustomerEntity c where c.code = :code")
    String address(String code);

    @HQL("""
            select c.code
            from DispatchEntity d
            join OrderEntity o on o.id = d.orderId
            join CustomerEntity c on c.id = o.customerId
            where d.number = :number
            """)
    Optional<String> customerOfDispatch(String number);

    @HQL("select c.code from OrderEntity o join CustomerEntity c on c.id = o.customerId where o.number = :number")
    Optional<String> customerOfOrder(String number);

    @HQL("select c.code from InvoiceEntity i join CustomerEntity c on c.id = i.customerId where i.number = :number")
    Optional<String> customerOfInvoice(String number);

    @HQL("select c.code from ReturnEntity g join CustomerEntity c on c.id = g.customerId where g.number = :number")
    Optional<String> customerOfReturn(String number);

    @HQL("select c.code from CreditNoteEntity k join CustomerEntity c on c.id = k.customerId where k.number = :number")
    Optional<String> customerOfCreditNote(String number);

    @HQL("select c.code from CustomerEntity c where c.code = :code")
    Optional<String> customer(String code);

    @HQL("select c.code from ReminderEntity m join CustomerEntity c on c.id = m.customerId where m.id = :id")
    Optional<String> customerReminded(long id);

    @HQL("select r.printedAt from PrintRunEntity r where r.id = :run")
    Optional<Instant> printedAt(long run);

    @HQL("""
            select o.number
            from ReturnLineEntity l
            join ReturnEntity g on g.id = l.returnId
            join OrderEntity o on o.id = l.rootOrderId
            where g.number = :number
            order by l.lineNo
            fetch first 1 rows only
            """)
    Optional<String> firstOrderOfReturn(String number);

    record RemindedRow(LocalDate remindedOn, int reminders) {}

    @HQL("select g.remindedOn, g.reminders from ReturnEntity g where g.number = :number")
    RemindedRow remindersOf(String number);
}
