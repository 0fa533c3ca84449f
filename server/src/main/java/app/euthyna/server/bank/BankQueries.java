package app.euthyna.server.bank;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface BankQueries {
    StatelessSession session();

    record InvoicedAfterRow(String number, LocalDate invoicedOn) {}

    @HQL("""
            select bs.id
            from BankStatementEntity bs
            where bs.account = :account and bs.statementId = :statementId
            """)
    Optional<Long> readBefore(String account, String statementId);

    @HQL("select count(*) from BankEntryEntity be where be.statementId = :statementId and be.state = 'OPEN'")
    long open(long statementId);

    @HQL("update BankEntryEntity be set be.state = 'SETTLED' where be.id = :id")
    int settle(long id);

    @HQL("""
            select i.number, i.invoicedOn
            from InvoiceEntity i
            where :numbers contains i.number and i.invoicedOn > :day
            """)
    List<InvoicedAfterRow> invoicedAfter(String[] numbers, LocalDate day);

    @HQL("update BankEntryEntity be set be.state = 'SET_ASIDE', be.why = :why where be.id = :id")
    int setAside(String why, long id);

    record StatementRow(
            long id,
            String statementId,
            String account,
            LocalDate from,
            LocalDate to,
            BigDecimal opening,
            BigDecimal closing,
            Instant readAt,
            String readBy,
            Long entries,
            Long open) {}

    @HQL("""
            select s.id, s.statementId, s.account, s.fromDate, s.toDate, s.opening, s.closing, s.readAt, s.readBy,
                (select count(*) from BankEntryEntity e where e.statementId = s.id),
                (select count(*) from BankEntryEntity e where e.statementId = s.id and e.state = 'OPEN')
            from BankStatementEntity s
            where s.id < :before
            order by s.id desc
            fetch first 101 rows only
            """)
    List<StatementRow> statements(long before);

    @HQL("""
            select s.id, s.statementId, s.account, s.fromDate, s.toDate, s.opening, s.closing, s.readAt, s.readBy,
                (select count(*) from BankEntryEntity e where e.statementId = s.id),
                (select count(*) from BankEntryEntity e where e.statementId = s.id and e.state = 'OPEN')
            from BankStatementEntity s
            where s.id = :id
            """)
    Optional<StatementRow> statement(long id);

    record EntryRow(
            long id,
            long statement,
            int no,
            String reference,
            LocalDate bookedOn,
            BigDecimal amount,
            String currency,
            String payer,
            String payerAccount,
            String creditorReference,
            String remittance,
            String state,
            String why) {}

    record EntryPaymentRow(long entry, String payment) {}

    /** The payments that were made of entries. */
    @HQL("""
            select ep.entryId, p.number
            from BankEntryPaymentEntity ep
            join PaymentEntity p on p.id = ep.paymentId
            where :entries contains ep.entryId
            order by p.id
            """)
    List<EntryPaymentRow> payments(Long[] entries);

    @HQL("""
            select e.id, e.statementId, e.no, e.reference, e.bookedOn, e.amount, e.currency, e.payer, e.payerAccount,
                e.creditorReference, e.remittance, e.state, e.why
            from BankEntryEntity e
            where e.statementId = :statement and e.no > :after
            order by e.statementId, e.no
            fetch first :most rows only
            """)
    List<EntryRow> entries(long statement, int after, int most);

    @HQL("""
            select e.id, e.statementId, e.no, e.reference, e.bookedOn, e.amount, e.currency, e.payer, e.payerAccount,
                e.creditorReference, e.remittance, e.state, e.why
            from BankEntryEntity e
            where e.statementId = :statement and e.state = 'OPEN' and e.no > :after
            order by e.no
            fetch first :most rows only
            """)
    List<EntryRow> openEntries(long statement, int after, int most);

    @HQL("""
            select e.id, e.statementId, e.no, e.reference, e.bookedOn, e.amount, e.currency, e.payer, e.payerAccount,
                e.creditorReference, e.remittance, e.state, e.why
            from BankEntryEntity e
            where e.id = :id
            """)
    Optional<EntryRow> entry(long id);

    /** An open invoice that an entry may settle. */
    record CandidateRow(
            String number,
            String customer,
            BigDecimal gross,
            BigDecimal openAmount,
            String customerName,
            BigDecimal earlyPercent,
            LocalDate earlyUntil,
            BigDecimal credited) {}

    record CreditRow(String number, String customer, BigDecimal leftAmount) {}

    /** Credit that credit notes have left of customers, so much of each at most. */
    @HQL("""
            select p.number, c.code, p.leftAmount
            from (select q.id as id, q.number as number, q.customerId as customerId, q.leftAmount as leftAmount,
                row_number() over (partition by q.customerId order by q.id) as place
                from PaymentEntity q
                where q.kind = 'CREDIT_NOTE' and q.leftAmount >= 0.0001bd and q.customerId in (
                    select k.id from CustomerEntity k where :customers contains k.code)) p
            join CustomerEntity c on c.id = p.customerId
            where p.place <= :most
            order by p.id
            """)
    List<CreditRow> creditNotesLeft(String[] customers, long most);

    /** Open invoices, the longest due first; so many at most that agree in what is looked for. */
    String CANDIDATES = """
            select i.number as number, c.code as customer, i.gross as gross, i.openAmount as openAmount,
                c.name as customerName, i.earlyPercent as earlyPercent, i.earlyUntil as earlyUntil,
                coalesce((select sum(k.gross) from CreditNoteEntity k where k.invoiceId = i.id
                and k.reversedOn is null), 0) as credited
            from (select i.id as id, i.number as number, i.customerId as customerId, i.gross as gross,
                i.openAmount as openAmount, i.dueOn as dueOn, i.earlyUntil as earlyUntil,
                case when i.reduced = true and exists (select 1 from ReductionEntity r where r.invoiceId = i.id
                and r.kind = 'DISCOUNT' and r.reversedOn is null) then null else i.earlyPercent end as earlyPercent,
            """;

    String LONGEST_DUE = """
            join CustomerEntity c on c.id = i.customerId
            where i.place <= :most
            order by i.dueOn, i.id
            """;

    @HQL(CANDIDATES + """
            row_number() over (partition by i.number order by i.dueOn, i.id) as place
                from InvoiceEntity i where i.openAmount >= 0.0001bd and :these contains i.number) i
            """ + LONGEST_DUE)
    List<CandidateRow> byNumber(String[] these, long most);

    @HQL(CANDIDATES + """
            row_number() over (partition by i.openAmount order by i.dueOn, i.id) as place
                from InvoiceEntity i where i.openAmount >= 0.0001bd and :these contains i.openAmount) i
            """ + LONGEST_DUE)
    List<CandidateRow> byOpenAmount(BigDecimal[] these, long most);

    @HQL(CANDIDATES + """
            row_number() over (partition by i.customerId order by i.dueOn, i.id) as place
                from InvoiceEntity i
                where i.openAmount >= 0.0001bd and i.customerId in (
                    select k.id from CustomerEntity k where :these contains lower(k.name))) i
            """ + LONGEST_DUE)
    List<CandidateRow> byPayer(String[] these, long most);
}
