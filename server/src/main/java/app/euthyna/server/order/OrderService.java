package app.euthyna.server.order;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Entering, submitting and changing orders. Screen, REST and files come in here, by one road. */
@Service
@Transactional
public class OrderService {

    private final OrderDrafts drafts;
    private final OrderAmendments amendments;
    private final OrderSubmission submission;
    private final OrderViews views;
    private final OrderDecisions decisions;
    private final OrderStore stored;

    OrderService(
            OrderDrafts drafts,
            OrderAmendments amendments,
            OrderSubmission submission,
            OrderViews views,
            OrderDecisions decisions,
            OrderStore stored) {
        this.drafts = drafts;
        this.amendments = amendments;
        this.submission = submission;
        this.views = views;
        this.decisions = decisions;
        this.stored = stored;
    }

    /** Keeps an order as a draft, however incomplete. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView keep(CommandContext context, OrderDraft draft) {
        return views.of(drafts.keep(drafts.begin(context, draft)));
    }

    /**
     * Writes an order and hands it in: from here on the checks hold it or clear it. The customer is locked first, so
     * that two people sending the same PO, or using up the same limit, can't both get through.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submit(CommandContext context, OrderDraft draft) {
        drafts.lockCustomer(draft);
        var order = drafts.begin(context, draft);
        submission.submit(context, order);
        return views.of(order.number());
    }

    /** Submits a draft. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView submitDraft(CommandContext context, String number, long version) {
        decisions.lock(number);
        var order = stored.seen(number, version);
        if (order.header.state != OrderState.DRAFT) {
            throw new RefusedException(new DraftRefusal.AlreadySubmitted(number, order.header.state));
        }
        submission.submit(context, order);
        return views.of(number);
    }

    /** Changes the content of an order; what is null in the draft's header stays as it is. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView amend(CommandContext context, String number, long version, OrderDraft draft) {
        OrderDrafts.oneLine(draft.po());
        decisions.lock(number);
        var kept = stored.seen(number, version);
        var before = stored.core(kept);
        var change = amendments.decide(context, kept, before, draft);
        var after = change.order();
        if (!change.differences().isEmpty()) {
            if (before.state() == OrderState.DRAFT) {
                kept.header.poTaken = before.po().equals(after.po()) ? kept.header.poTaken : null;
                kept.write(after);
                stored.save(kept);
                amendments.keepVersion(context, kept, change);
            } else {
                submission.replaces(context, kept, after);
                decisions.write(context, List.of(new Effect.OrderChanged(before, after, change.differences())));
            }
        }
        return views.of(number);
    }

    /** Changes an order into another content that was worked out beforehand. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView change(CommandContext context, String number, long version, Order into) {
        return amend(
                context,
                number,
                version,
                new OrderDraft(
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        into.lines().stream().map(l -> written(l.no(), l)).toList()));
    }

    private static OrderDraft.Line written(Integer no, OrderLine line) {
        return new OrderDraft.Line(
                no,
                line.item(),
                line.quantity().value(),
                line.price().unit(),
                line.price().discountPercent(),
                line.requestedOn(),
                line.kind(),
                line.description(),
                line.site(),
                line.shortage());
    }

    /** Splits an order: what stays, and the rest on an order of its own under the same PO, submitted like any other. */
    @Transactional(propagation = Propagation.MANDATORY)
    public OrderView split(CommandContext context, String number, long version, Order stays, Order rest) {
        var whole = stored.core(stored.find(number));
        change(context, number, version, stays);
        var kept = drafts.begin(
                context,
                new OrderDraft(
                        rest.customer(),
                        rest.po(),
                        rest.kind(),
                        rest.site(),
                        rest.orderedOn(),
                        rest.requestedOn(),
                        rest.remark(),
                        null,
                        rest.details(),
                        rest.lines().stream().map(l -> written(null, l)).toList()));
        // whoever wrote the whole wrote the rest
        kept.header.writers = Records.lines(whole.everyWriter());
        submission.ofOneOrder(kept, number);
        drafts.keep(kept);
        decisions.note(context, number, "split", "the rest continues as order " + kept.number());
        decisions.note(context, kept.number(), "split", "the rest of order " + number);
        submission.submit(context, kept);
        return views.of(kept.number());
    }

    @Transactional(readOnly = true)
    public OrderView view(String number) {
        return views.of(number);
    }

    /** An order as it would be, for looking at it before it is kept. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulate(CommandContext context, OrderDraft draft) {
        return drafts.simulate(context, draft);
    }

    /** An order as a change would leave it; refused as the change would be. Nothing is written. */
    @Transactional(readOnly = true)
    public Order simulateChange(CommandContext context, String number, OrderDraft draft) {
        var kept = stored.find(number);
        return amendments.decide(context, kept, stored.core(kept), draft).order();
    }

    /** How an order that is not kept is shown. */
    public OrderView simulated(Order order) {
        return views.simulated(order);
    }

    /** The number under which a sender's own reference was imported before. */
    @Transactional(readOnly = true)
    public Optional<String> takenIn(String customer, String reference) {
        return stored.takenIn(customer, reference);
    }
}
