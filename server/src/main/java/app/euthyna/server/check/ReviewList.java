package app.euthyna.server.check;

import app.euthyna.core.approval.Level;
import app.euthyna.core.check.ReviewPriority;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.order.Writers;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Listing;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** The list of orders that wait for a decision, in any of its sequences, paged by key. */
@Component
class ReviewList {

    private final StatelessSession session;
    private final Commands commands;

    ReviewList(StatelessSession session, Commands commands) {
        this.session = session;
        this.commands = commands;
    }

    /** An order that waits; {@code priority} is the first part of its key. */
    record Row(
            long order,
            BigDecimal priority,
            LocalDate requestedOn,
            BigDecimal openGross,
            String number,
            OrderState state,
            String customer,
            String customerName) {}

    /** A page and the first row of the next; what is null does not matter. */
    List<Row> page(
            ReviewController.Sort sort,
            @Nullable ReviewController.Only only,
            @Nullable String reason,
            @Nullable Pages.Key after,
            LocalDate today) {
        var key = switch (sort) {
            case PRIORITY -> "case when x.cleared = true then 1 else 1000000 end * x.openGross * " + weight();
            case VALUE -> "x.openGross";
            case REQUESTED, AGE -> "cast(0 as BigDecimal)";
        };
        var listing = Listing.of(session, Row.class, """
                        select x.orderId, KEY as priority, x.requestedOn, x.openGross, o.number, o.state, c.code, c.name
                        from OpenOrderEntity x
                        join OrderEntity o on o.id = x.orderId
                        join CustomerEntity c on c.id = x.customerId
                        """.replace("KEY", key)).where("x.reviewable = true");
        if (sort == ReviewController.Sort.PRIORITY) {
            for (int at = 0; at < ReviewPriority.WEIGHTS.size(); at++) {
                listing.with(
                        "within" + at,
                        today.plusDays(ReviewPriority.WEIGHTS.get(at).withinDays()));
            }
        }
        only(listing, only);
        if ("approval".equals(reason)) {
            listing.where("o.state = 'AWAITING_APPROVAL'");
        } else {
            listing.where("""
                    exists (select 1 from FindingEntity f
                    where f.orderId = x.orderId and f.state = 'OPEN' and f.checkCode = :reason)""", reason);
        }
        if (after != null) {
            after(listing, sort, key, after);
        }
        return listing.then(
                        switch (sort) {
                            case PRIORITY, VALUE -> "order by priority desc, x.orderId";
                            case REQUESTED -> "order by x.requestedOn, x.orderId";
                            case AGE -> "order by x.orderId";
                        })
                .page();
    }

    /** {@link ReviewPriority} as an expression, for the database to sort by. */
    private static String weight() {
        var weight = new StringBuilder("case");
        for (int at = 0; at < ReviewPriority.WEIGHTS.size(); at++) {
            weight.append(" when x.requestedOn <= :within")
                    .append(at)
                    .append(" then ")
                    .append(ReviewPriority.WEIGHTS.get(at).factor());
        }
        return weight.append(" else ")
                .append(ReviewPriority.LATER)
                .append(" end")
                .toString();
    }

    private void only(Listing<Row> listing, ReviewController.Only only) {
        if (only == null) {
            return;
        }
        switch (only) {
            case HELD -> listing.where("o.state = 'HELD'");
            case AWAITING -> listing.where("o.state = 'AWAITING_APPROVAL'");
            case MINE -> {
                var me = commands.context().person();
                listing.where("o.state = 'AWAITING_APPROVAL'")
                        .where(Writers.NOT_MINE)
                        .with("me", me.username())
                        .with("myLine", Writers.line(me.username()))
                        .where("""
                                exists (select 1 from ApprovalRequestEntity r where r.orderId = x.orderId
                                and r.state = 'AWAITING' and :levels contains r.waitsFor)""", Many.names(Level.carriedBy(me)));
            }
            case FLAGGED -> listing.where("o.state not in ('HELD', 'AWAITING_APPROVAL')");
        }
    }

    private static void after(Listing<Row> listing, ReviewController.Sort sort, String key, Pages.Key seen) {
        switch (sort) {
            case PRIORITY, VALUE ->
                listing.where(key + " <= :key and (" + key + " < :key or x.orderId > :order)")
                        .with("key", seen.figure(0))
                        .with("order", seen.number(2));
            case REQUESTED ->
                listing.where("x.requestedOn >= :requested and (x.requestedOn > :requested or x.orderId > :order)")
                        .with("requested", seen.date(1))
                        .with("order", seen.number(2));
            case AGE -> listing.where("x.orderId > :order", seen.number(2));
        }
    }
}
