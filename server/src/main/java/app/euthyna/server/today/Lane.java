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
    HELD(
            5,
            "select (select min(f.since) from finding f where f.order_id = x.order_id and f.state = 'OPEN') as since,"
                    + " x.open_gross as worth from open_order x join sales_order o on o.id = x.order_id where x.reviewable"
                    + " = true and o.state = 'HELD'"),
    FLAGGED(
            10,
            "select (select min(f.since) from finding f where f.order_id = x.order_id and f.state = 'OPEN') as since,"
                    + " x.open_gross as worth from open_order x join sales_order o on o.id = x.order_id where x.reviewable"
                    + " = true and o.state not in ('HELD', 'AWAITING_APPROVAL')"),
    AWAITING(
            2,
            "select r.asked_on as since, x.open_gross as worth from approval_request r join open_order x on x.order_id"
                    + " = r.order_id join sales_order o on o.id = r.order_id where r.state = 'AWAITING'"
                    + " and o.state = 'AWAITING_APPROVAL' and r.waits_for in (:levels) and " + Writers.NOT_MINE),
    SENT_BACK(
            5,
            "select r.closed_on as since, o.gross as worth from approval_request r join sales_order o on o.id ="
                    + " r.order_id where r.state = 'SENT_BACK' and o.state = 'DRAFT'"),
    DUE(
            0,
            "select q.next_due as since, q.net as worth from sales_agreement q where q.state = 'OPEN' and q.next_due <= :today"),
    TO_STAGE(
            5,
            "select o.ordered_on as since, x.open_gross as worth from open_order x join sales_order o on o.id ="
                    + " x.order_id where x.stageable = true",
            true,
            ReadBy.Group.SELLING),
    STAGED(
            2,
            "select d.staged_on as since, x.open_gross as worth from dispatch d join open_order x on x.order_id ="
                    + " d.order_id where d.state = 'STAGED'",
            true,
            ReadBy.Group.SELLING),
    LATE(
            0,
            "select x.requested_on as since, x.open_gross as worth from open_order x where x.cleared = true and"
                    + " x.to_ship = true and x.requested_on < :today"),
    PART_SHIPPED(
            10, "select x.requested_on as since, x.open_gross as worth from open_order x where x.part_shipped = true"),
    TO_BILL(5, "select x.billable_since as since, x.billable_net as worth from open_order x where x.billable = true"),
    RETURNS_TO_RECEIVE(
            14,
            "select g.authorised_on as since, (select coalesce(sum(l.authorised * d.cost / d.quantity), 0) from"
                    + " return_line l join dispatch_line d on d.dispatch_id = l.dispatch_id and d.line_no ="
                    + " l.dispatch_line_no where l.return_id = g.id) as worth from goods_return g where g.expects = true",
            true,
            ReadBy.Group.COSTS),
    UNEXPECTED_GOODS(
            2,
            "select u.came_on as since, 0 as worth from unexpected_goods u where u.left_over > 0",
            true,
            ReadBy.Group.COSTS),
    RETURNS_TO_INSPECT(
            2,
            "select g.received_on as since, (select coalesce(sum(p.cost), 0) - coalesce(sum((select sum(x.cost) from"
                    + " return_outcome x where x.part_id = p.id)), 0) from return_line l join return_part p on"
                    + " p.return_line_id = l.id where l.return_id = g.id) as worth from goods_return g where g.inspecting"
                    + " = true",
            true,
            ReadBy.Group.COSTS),
    RETURNS_TO_CREDIT(
            5, "select g.received_on as since, g.credit_due as worth from goods_return g where g.credit_due > 0"),
    CREDITED_AHEAD(
            14,
            "select g.authorised_on as since, g.credited_ahead as worth from goods_return g where g.credited_ahead >"
                    + " 0"),
    REFUNDS_TO_DO(
            3,
            "select k.credited_on as since, p.left_amount as worth from credit_note k join payment p on p.number ="
                    + " k.number where k.wish = 'REFUND' and p.left_amount > 0 and not exists (select 1 from refund r join"
                    + " payout u on u.refund_id = r.id where r.source_kind = 'CREDIT_NOTE' and r.source_number = k.number"
                    + " and u.closed = false) union all select u.asked_on, r.amount from payout u join refund r on r.id ="
                    + " u.refund_id where u.closed = false"),
    PLANS_WAITING(7, "select u.touched_on as since, u.amount as worth from unwinding u where u.state = 'WAITING'"),
    PAST_DUE(
            30,
            "select i.due_on as since, i.open_amount as worth from invoice i where i.open_amount > 0 and i.due_on <"
                    + " :today");

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
