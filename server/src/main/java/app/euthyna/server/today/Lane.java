package app.euthyna.server.today;

import app.euthyna.core.shared.Role;
import app.euthyna.server.order.Writers;
import app.euthyna.server.platform.ReadBy;
import app.euthyna.server.platform.Reading;
import java.util.Locale;
import java.util.Set;

/**
 * A queue of work. Each says from which rows it is counted: since when they wait, and what they are worth; the list it
 * opens asks the same.
 */
enum Lane {
    HELD(5, """
                    select (select min(f.since) from FindingEntity f where f.orderId = x.orderId and f.state = 'OPEN') as
                        since, x.openGross as worth
                    from OpenOrderEntity x
                    join OrderEntity o on o.id = x.orderId
                    where x.reviewable = true and o.state = 'HELD'"""),
    FLAGGED(10, """
                    select (select min(f.since) from FindingEntity f where f.orderId = x.orderId and f.state = 'OPEN') as
                        since, x.openGross as worth
                    from OpenOrderEntity x
                    join OrderEntity o on o.id = x.orderId
                    where x.reviewable = true and o.state not in ('HELD', 'AWAITING_APPROVAL')"""),
    AWAITING(2, """
                    select r.askedOn as since, x.openGross as worth
                    from ApprovalRequestEntity r
                    join OpenOrderEntity x on x.orderId = r.orderId
                    join OrderEntity o on o.id = r.orderId
                    where r.state = 'AWAITING' and o.state = 'AWAITING_APPROVAL' and :levels contains r.waitsFor
                    and \s""" + Writers.NOT_MINE),
    SENT_BACK(5, """
                    select r.closedOn as since, o.gross as worth
                    from ApprovalRequestEntity r
                    join OrderEntity o on o.id = r.orderId
                    where r.state = 'SENT_BACK' and o.state = 'DRAFT'"""),
    DUE(0, """
                    select q.nextDue as since, q.net as worth
                    from SalesAgreementEntity q
                    where q.state = 'OPEN' and q.nextDue <= :today"""),
    TO_STAGE(5, """
                    select o.orderedOn as since, x.openGross as worth
                    from OpenOrderEntity x
                    join OrderEntity o on o.id = x.orderId
                    where x.stageable = true""", true, ReadBy.Group.SELLING),
    STAGED(2, """
                    select d.stagedOn as since, x.openGross as worth
                    from DispatchEntity d
                    join OpenOrderEntity x on x.orderId = d.orderId
                    where d.state = 'STAGED'""", true, ReadBy.Group.SELLING),
    LATE(0, """
                    select x.requestedOn as since, x.openGross as worth
                    from OpenOrderEntity x
                    where x.cleared = true and x.toShip = true and x.requestedOn < :today"""),
    PART_SHIPPED(10, """
                    select x.requestedOn as since, x.openGross as worth
                    from OpenOrderEntity x
                    where x.partShipped = true"""),
    TO_BILL(5, """
                    select x.billableSince as since, x.billableNet as worth
                    from OpenOrderEntity x
                    where x.billable = true"""),
    RETURNS_TO_RECEIVE(14, """
                    select g.authorisedOn as since, (select coalesce(sum(l.authorised * d.cost / d.quantity), 0) from
                        ReturnLineEntity l join DispatchLineEntity d on d.dispatchId = l.dispatchId and d.lineNo =
                        l.dispatchLineNo where l.returnId = g.id) as worth
                    from ReturnEntity g
                    where g.expects = true""", true, ReadBy.Group.COSTS),
    UNEXPECTED_GOODS(2, """
                    select u.cameOn as since, cast(0 as BigDecimal) as worth
                    from UnexpectedGoodsEntity u
                    where u.leftOver > 0""", true, ReadBy.Group.COSTS),
    RETURNS_TO_INSPECT(2, """
                    select g.receivedOn as since, (select coalesce(sum(p.cost), 0) - coalesce(sum((select sum(x.cost) from
                        ReturnOutcomeEntity x where x.partId = p.id)), 0) from ReturnLineEntity l join ReturnPartEntity p on
                        p.returnLineId = l.id where l.returnId = g.id) as worth
                    from ReturnEntity g
                    where g.inspecting = true""", true, ReadBy.Group.COSTS),
    RETURNS_TO_CREDIT(5, """
                    select g.receivedOn as since, g.creditDue as worth
                    from ReturnEntity g
                    where g.creditDue > 0"""),
    CREDITED_AHEAD(14, """
                    select g.authorisedOn as since, g.creditedAhead as worth
                    from ReturnEntity g
                    where g.creditedAhead > 0"""),
    REFUNDS_TO_DO(3, """
                    select k.creditedOn as since, p.leftAmount as worth
                    from CreditNoteEntity k
                    join PaymentEntity p on p.number = k.number
                    where k.wish = 'REFUND' and p.leftAmount >= 0.0001bd and not exists (select 1 from RefundEntity r join
                        PayoutEntity u on u.refundId = r.id where r.sourceKind = 'CREDIT_NOTE' and r.sourceNumber = k.number
                        and u.closed = false)
                    union all select u.askedOn as since, r.amount as worth
                    from PayoutEntity u
                    join RefundEntity r on r.id = u.refundId
                    where u.closed = false"""),
    PLANS_WAITING(7, """
                    select u.touchedOn as since, u.amount as worth
                    from UnwindingEntity u
                    where u.state = 'WAITING'"""),
    DISPUTES(0, """
                    select d.lookOn as since, coalesce(d.amount, i.openAmount) as worth
                    from DisputeEntity d
                    join InvoiceEntity i on i.id = d.invoiceId
                    where d.state = 'OPEN' and d.lookOn <= :today"""),
    WRITTEN_OFF(30, """
                    select r.reducedOn as since, r.amount as worth
                    from ReductionEntity r
                    where r.kind in ('SMALL_DIFFERENCE', 'BAD_DEBT') and r.reversedOn is null
                    and r.reducedOn >= :monthBegan"""),
    PAST_DUE(30, """
                    select i.dueOn as since, i.openAmount as worth
                    from InvoiceEntity i
                    where i.openAmount >= 0.0001bd and i.dueOn < :today""");

    /** Longer than so many days is too long, unless someone sets a limit of their own. */
    final int usualLimit;

    final String rows;

    /** It is about goods: everybody of the business reads it. */
    private final boolean goods;

    /** What kind of figure its worth is. */
    final ReadBy.Group worth;

    Lane(int usualLimit, String rows) {
        this(usualLimit, rows, false, ReadBy.Group.SELLING);
    }

    Lane(int usualLimit, String rows, boolean goods, ReadBy.Group worth) {
        this.usualLimit = usualLimit;
        this.rows = rows;
        this.goods = goods;
        this.worth = worth;
    }

    Set<Role> readers() {
        return goods ? Reading.BUSINESS : Reading.SELLING;
    }

    String code() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
