package app.euthyna.server.approval;

import app.euthyna.core.approval.Approving;
import app.euthyna.core.approval.Level;
import app.euthyna.core.approval.OrderActions;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.check.Finding;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.approval.ApprovalStore.State;
import app.euthyna.server.check.Clearance;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Right;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Asks for approval where the rules want it, before an order that nothing holds may go on. */
@Component
@org.springframework.core.annotation.Order(65)
class Approvals implements Clearance, EffectSink {

    private final AskedApprovals asked;
    private final ApprovalStore store;

    Approvals(AskedApprovals asked, ApprovalStore store) {
        this.asked = asked;
        this.store = store;
    }

    @Override
    public OrderState decide(CommandContext context, Chain chain, List<Finding> findings, Occasion occasion) {
        var order = chain.order();
        if (order.state() == OrderState.CLEARED && occasion == Occasion.WORLD_CHANGED) {
            return OrderState.CLEARED;
        }
        var asks = asked.of(order, findings);
        var pending =
                asks.isEmpty() ? List.<Level>of() : Approving.pending(order, asks, store.approvals(order.number()));
        if (pending.isEmpty()) {
            return OrderState.CLEARED;
        }
        if (order.state() != OrderState.AWAITING_APPROVAL || store.asksOther(order.number(), asks, pending.get(0))) {
            store.ask(context, order.number(), asks, pending.get(0));
        }
        return OrderState.AWAITING_APPROVAL;
    }

    @Override
    @Transactional(readOnly = true)
    public List<String> asks(Order order) {
        return asked.of(order, List.of()).stream()
                .map(ask -> ask.reason() + ": " + ask.level().words() + " must agree")
                .toList();
    }

    @Override
    public List<ActionView> actions(CommandContext context, Chain chain, List<Finding> findings) {
        var order = chain.order();
        var awaits = order.state() == OrderState.AWAITING_APPROVAL;
        return OrderActions.of(
                        chain,
                        findings,
                        awaits ? asked.of(order, findings) : List.of(),
                        awaits ? store.approvals(order.number()) : List.of(),
                        context.person(),
                        context.today())
                .stream()
                .filter(one -> one.action() != OrderActions.Action.REMIND || Right.PROPOSE.isOf(context.person()))
                .map(one -> new ActionView(
                        one.action(), one.refusal().map(Refusal::sentence).orElse(null)))
                .toList();
    }

    /** A request ends with the state that it was about. */
    @Override
    public void store(CommandContext context, Effect effect) {
        if (effect instanceof Effect.StateChanged changed) {
            ended(context, changed);
        }
    }

    private void ended(CommandContext context, Effect.StateChanged effect) {
        var ended = switch (effect.to()) {
            case CLEARED -> State.APPROVED;
            case DECLINED -> State.DECLINED;
            case DRAFT -> State.SENT_BACK;
            case CANCELLED, COMPLETED, CLOSED_SHORT -> State.WITHDRAWN;
            // an order that is held while it awaits approval keeps its request and what was granted
            case SUBMITTED, AWAITING_APPROVAL, HELD -> null;
        };
        if (ended != null
                && (effect.from() == OrderState.AWAITING_APPROVAL
                        || ended == State.SENT_BACK
                        || (effect.from() != OrderState.SUBMITTED && store.isOpen(effect.order())))) {
            store.close(context, effect.order(), ended);
        }
    }

    @Override
    public RequestView requestOf(String order) {
        return store.request(order)
                .map(request -> new RequestView(
                        request.state().name(),
                        request.askedOn(),
                        request.reasons(),
                        request.waitsFor() == null ? null : request.waitsFor().words(),
                        request.waitsFor() == null
                                ? List.of()
                                : request.waitsFor().roles(),
                        store.approvals(order).stream()
                                .map(a -> new ApprovalView(a.level().words(), a.by(), a.on(), a.reason()))
                                .toList(),
                        request.closedBy(),
                        request.closedOn(),
                        request.closing()))
                .orElse(null);
    }

    @Override
    public Map<Long, Wait> waiting(Collection<Long> orders) {
        return orders.isEmpty()
                ? Map.of()
                : store.waiting(orders).stream()
                        .collect(Collectors.toMap(
                                ApprovalQueries.WaitingRow::orderId,
                                row -> new Wait(
                                        "waits for "
                                                + Level.valueOf(row.waitsFor()).words(),
                                        row.askedOn())));
    }
}
