package app.euthyna.server.ledger;

import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.hibernate.query.SelectionQuery;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface LedgerQueries {
    StatelessSession session();

    record RuleRow(String role, String customerClass, String itemClass, String site, String vat, String account) {}

    record AccountRoleRow(String code, String role) {}

    @HQL("""
            select pr.role, pr.customerClass, pr.itemClass, pr.site, pr.vat, pr.account
            from PostingRuleEntity pr
            order by pr.id
            """)
    List<RuleRow> rules();

    @HQL("select a.code, p.role from AccountEntity a left join PostingRuleEntity p on p.account = a.code")
    List<AccountRoleRow> roles();

    record LineRow(long entryId, String role, String account, String name, BigDecimal amount, String explained) {}

    record SheetRow(
            long id,
            String entry,
            LocalDate entryDate,
            String event,
            String documentKind,
            String documentNumber,
            String customerName,
            BigDecimal amount) {}

    record BalancesRow(String account, String name, BigDecimal opening, BigDecimal debit, BigDecimal credit) {}

    record RoleBalancesRow(String role, BigDecimal amount) {}

    record MappedRow(
            String role,
            String customerClass,
            String itemClass,
            String site,
            String vat,
            String account,
            String name) {}

    @HQL("""
            select l.entryId, l.role, l.account, a.name, l.amount, l.explained
            from JournalLineEntity l
            join AccountEntity a on a.code = l.account
            where :ids contains l.entryId
            order by l.entryId, l.lineNo
            """)
    List<LineRow> lines(Long[] ids);

    @HQL("select a.name from AccountEntity a where a.code = :code")
    Optional<String> accountName(String code);

    @HQL("""
            select coalesce(sum(d.debit - d.credit), 0)
            from JournalDayEntity d
            where d.account = :account and d.entryDate < :entryDate
            """)
    BigDecimal balanceBefore(String account, LocalDate entryDate);

    @HQL("""
            select l.id, e.number, l.entryDate, e.event, e.documentKind, e.documentNumber, c.name, l.amount
            from JournalLineEntity l
            join JournalEntryEntity e on e.id = l.entryId
            left join CustomerEntity c on c.id = e.customerId
            where l.account = :account and l.entryDate >= :from and l.entryDate <= :to
            and (l.entryDate > :seen or l.entryDate = :seen and l.id > :id)
            order by l.account, l.entryDate, l.id fetch first 101 rows only
            """)
    List<SheetRow> sheet(String account, LocalDate from, LocalDate to, LocalDate seen, long id);

    @HQL("""
            select d.account, a.name,
                sum(case when d.entryDate < cast(:from as LocalDate) then d.debit - d.credit else 0 end),
                sum(case when d.entryDate >= cast(:from as LocalDate) then d.debit else 0 end),
                sum(case when d.entryDate >= cast(:from as LocalDate) then d.credit else 0 end)
            from JournalDayEntity d
            join AccountEntity a on a.code = d.account
            where d.entryDate <= :to
            group by d.account, a.name
            order by d.account
            """)
    List<BalancesRow> balances(LocalDate from, LocalDate to);

    record MovedRow(String role, String account, String name, BigDecimal amount) {}

    @HQL("""
            select d.role, d.account, a.name, sum(d.debit - d.credit)
            from JournalDayEntity d
            join AccountEntity a on a.code = d.account
            where :roles contains d.role and d.entryDate >= :from and d.entryDate <= :to
            and :documents contains d.documentKind and not (:besides contains d.event)
            group by d.role, d.account, a.name
            order by d.account, d.role
            """)
    List<MovedRow> moved(String[] roles, String[] documents, String[] besides, LocalDate from, LocalDate to);

    @HQL("""
            select d.role, d.account, a.name, sum(d.debit - d.credit)
            from JournalDayEntity d
            join AccountEntity a on a.code = d.account
            where :roles contains d.role and d.entryDate <= :to
            group by d.role, d.account, a.name
            order by d.account, d.role
            """)
    List<MovedRow> stood(String[] roles, LocalDate to);

    /** Adds to what was moved in a day; answers how many rows there were to add to. */
    @HQL("""
            update JournalDayEntity d set d.debit = d.debit + :debit, d.credit = d.credit + :credit
            where d.role = :role and d.entryDate = :on and d.documentKind = :documentKind and d.event = :event
            and d.account = :account
            """)
    int add(
            BigDecimal debit,
            BigDecimal credit,
            String role,
            LocalDate on,
            String documentKind,
            String event,
            String account);

    @HQL("select jl.role, sum(jl.amount) from JournalLineEntity jl group by jl.role order by jl.role")
    List<RoleBalancesRow> roleBalances();

    @HQL("""
            select p.role, p.customerClass, p.itemClass, p.site, p.vat, p.account, a.name
            from PostingRuleEntity p
            join AccountEntity a on a.code = p.account
            order by p.account, p.id
            """)
    List<MappedRow> postingMap();

    @HQL("""
            update PeriodClosingEntity pc
            set pc.reopenedAt = :reopenedAt, pc.reopenedBy = :reopenedBy, pc.reopening = :reopening
            where pc.reopenedAt is null and pc.through = :through
            """)
    int reopen(Instant reopenedAt, String reopenedBy, String reopening, LocalDate through);

    @HQL("select count(*) from AccountEntity a where a.code = :code")
    long accounts(String code);

    @HQL("""
            delete
            from PostingRuleEntity pr
            where pr.role = :role and pr.customerClass = :customerClass and pr.itemClass = :itemClass
            and pr.site = :site and pr.vat = :vat
            """)
    int removeRule(String role, String customerClass, String itemClass, String site, String vat);

    record PeriodsRow(
            LocalDate through,
            Instant closedAt,
            String closedBy,
            String remark,
            Instant reopenedAt,
            String reopenedBy,
            String reopening) {}

    record AccountRow(String code, String name) {}

    record ChangesRow(Instant changedAt, String changedBy, String sentence, String reason) {}

    @HQL("""
            select pc.through, pc.closedAt, pc.closedBy, pc.remark, pc.reopenedAt, pc.reopenedBy, pc.reopening
            from PeriodClosingEntity pc
            order by pc.id desc fetch first 60 rows only
            """)
    List<PeriodsRow> periods();

    @HQL("select a.code, a.name from AccountEntity a order by a.code")
    List<AccountRow> accounts();

    @HQL("""
            select prc.changedAt, prc.changedBy, prc.sentence, prc.reason
            from PostingRuleChangeEntity prc
            order by prc.id desc fetch first 60 rows only
            """)
    List<ChangesRow> changes();

    record EntryLineRow(
            long id,
            String number,
            LocalDate entryDate,
            String event,
            String documentKind,
            String documentNumber,
            String customer,
            String role,
            String account,
            BigDecimal amount) {}

    record MirrorRow(String documentKind, String documentNumber, String number, String mirrors) {}

    record WrittenRow(String number, LocalDate writtenOn) {}

    record NameRow(String code, String name) {}

    /** The lines of the entries of documents that have these numbers, each with its entry. */
    @HQL("""
            select e.id, e.number, e.entryDate, e.event, e.documentKind, e.documentNumber, c.code, l.role,
                l.account, l.amount
            from JournalEntryEntity e
            join JournalLineEntity l on l.entryId = e.id
            left join CustomerEntity c on c.id = e.customerId
            where :numbers contains e.documentNumber
            order by e.id, l.lineNo
            """)
    List<EntryLineRow> entryLines(String[] numbers);

    @HQL("select lh.lastNumber from LedgerHeadEntity lh where lh.id = 1")
    long lastNumber();

    /** Which entries of documents that have these numbers undo which others. */
    @HQL("""
            select e.documentKind, e.documentNumber, e.number, e.mirrors
            from JournalEntryEntity e
            where :numbers contains e.documentNumber and e.mirrors is not null
            """)
    List<MirrorRow> mirrors(String[] numbers);

    @HQL("select je.number, je.writtenOn from JournalEntryEntity je where :numbers contains je.number")
    List<WrittenRow> written(String[] numbers);

    @HQL("select a.code, a.name from AccountEntity a")
    List<NameRow> accountNames();

    record DocumentRow(String kind, String number) {}

    @HQL("select distinct e.documentKind, e.documentNumber from JournalEntryEntity e where :numbers contains e.number")
    List<DocumentRow> documentsOf(String[] numbers);

    record EntryRow(
            long id,
            String number,
            LocalDate entryDate,
            String event,
            String documentKind,
            String documentNumber,
            String customerName,
            String postedBy,
            String hash,
            String previousHash,
            String mirrors,
            String mirroredBy,
            String remark) {}

    /** Entries, newest first; what is null does not matter. */
    default List<EntryRow> page(
            String number, String document, String account, LocalDate from, LocalDate to, Long before) {
        return Listing.of(session(), EntryRow.class, """
                        select e.id, e.number, e.entryDate, e.event, e.documentKind, e.documentNumber, c.name,
                            e.postedBy, e.hash, e.previousHash, e.mirrors, m.number, e.remark
                        from JournalEntryEntity e
                        left join CustomerEntity c on c.id = e.customerId
                        left join JournalEntryEntity m on m.mirrors = e.number
                        """)
                .where("e.number = :number", number)
                .where("e.documentNumber = :document", document)
                .where(
                        "exists (select 1 from JournalLineEntity x where x.entryId = e.id and x.account = :account)",
                        account)
                .where("e.entryDate >= :from", from)
                .where("e.entryDate <= :to", to)
                .where("e.id < :before", before)
                .then("order by e.id desc")
                .page();
    }

    @HQL("""
            select distinct d.entryDate
            from JournalDayEntity d
            where :roles contains d.role and d.entryDate >= :from and d.entryDate <= :to
            and :documents contains d.documentKind
            order by d.entryDate
            """)
    SelectionQuery<LocalDate> days(String[] roles, String[] documents, LocalDate from, LocalDate to);

    @HQL("""
            select distinct d.entryDate
            from JournalDayEntity d
            where :roles contains d.role and d.entryDate >= :from and d.entryDate <= :to
            and :documents contains d.documentKind
            order by d.entryDate desc
            """)
    SelectionQuery<LocalDate> lastDays(String[] roles, String[] documents, LocalDate from, LocalDate to);
}
