package app.euthyna.server.approval;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ApprovalQueries {
    StatelessSession session();

    record WaitingRow(long orderId, String waitsFor, LocalDate askedOn) {}

    @HQL("""
            select o.number
            from OrderEntity o
            where o.customerId = :customerId and o.number <> :number and o.state in ('CLEARED', 'COMPLETED',
                'CLOSED_SHORT') and exists (select 1 from OrderLineEntity l where l.orderId = o.id and l.removed =
                false and l.itemCode <> '' and (l.unitPrice = 0 or l.discountPercent = 100))
            and exists (select 1 from HistoryEntity h where h.orderId = o.id and h.stateTo = 'CLEARED' and
                h.writtenOn >= :writtenOn) and not exists (select 1 from ApprovalEntity a where a.orderId = o.id)
            order by o.id
            """)
    List<String> givenBefore(long customerId, String number, LocalDate writtenOn);

    @HQL("""
            select so.id
            from OrderEntity so
            where so.customerId = :customerId and so.number <> :number and so.state in ('CLEARED', 'COMPLETED',
                'CLOSED_SHORT') fetch first 1 rows only
            """)
    Optional<Long> taken(long customerId, String number);

    @HQL("""
            select ar.orderId, ar.waitsFor, ar.askedOn
            from ApprovalRequestEntity ar
            where ar.state = 'AWAITING' and :ids contains ar.orderId
            """)
    List<WaitingRow> waiting(Long[] ids);

    record ApprovalsRow(String level, String approvedBy, LocalDate approvedOn, String reason, String content) {}

    record RequestRow(
            String state,
            LocalDate askedOn,
            String reasons,
            String waitsFor,
            String closedBy,
            LocalDate closedOn,
            String closing) {}

    @HQL("""
            select a.level, a.approvedBy, a.approvedOn, a.reason, a.content
            from ApprovalEntity a
            where a.orderId = :orderId
            order by a.id
            """)
    List<ApprovalsRow> approvals(long orderId);

    @HQL("""
            select ar.state, ar.askedOn, ar.reasons, ar.waitsFor, ar.closedBy, ar.closedOn, ar.closing
            from ApprovalRequestEntity ar
            where ar.orderId = :orderId
            """)
    Optional<RequestRow> request(long orderId);

    @HQL("""
            update ApprovalRequestEntity ar
            set ar.state = :state, ar.waitsFor = null, ar.closedBy = :closedBy, ar.closedOn = :closedOn, ar.closing
                = :closing
            where ar.orderId = :orderId
            """)
    int close(String state, String closedBy, LocalDate closedOn, String closing, long orderId);

    record LateRow(String order, String customerName, LocalDate askedOn, String waitsFor) {}

    @HQL("select count(*) from ReminderRunEntity rr where rr.runOn = :runOn")
    long runs(LocalDate runOn);

    @HQL("""
            select o.number, c.name, r.askedOn, r.waitsFor
            from ApprovalRequestEntity r
            join OrderEntity o on o.id = r.orderId
            join CustomerEntity c on c.id = o.customerId
            where r.state = 'AWAITING' and o.state = 'AWAITING_APPROVAL' and r.askedOn < :askedOn
            order by r.askedOn, o.id
            """)
    List<LateRow> waitingSinceBefore(LocalDate askedOn);

    @HQL("""
            select r.waitsFor
            from ApprovalRequestEntity r
            join OrderEntity o on o.id = r.orderId
            where o.number = :number and r.state = 'AWAITING' and o.state = 'AWAITING_APPROVAL'
            """)
    Optional<String> waitsFor(String number);

    @HQL("select r from ApprovalRuleEntity r where r.customerId is null order by r.id")
    List<ApprovalRuleEntity> companyRules();

    @HQL("select r from ApprovalRuleEntity r where r.customerId = :customer order by r.id")
    List<ApprovalRuleEntity> ownRules(Long customer);

    @HQL("delete from ApprovalRuleEntity r where r.customerId is null")
    int removeCompanyRules();

    @HQL("delete from ApprovalRuleEntity r where r.customerId = :customer")
    int removeOwnRules(Long customer);
}
