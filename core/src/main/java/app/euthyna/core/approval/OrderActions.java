package app.euthyna.core.approval;

import app.euthyna.core.approval.Approving.Approval;
import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.FindingDecisions;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Person;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * What can be decided on an order as it stands, and what speaks against it for one person: the same rules that the
 * decision itself goes by, asked before it.
 */
public final class OrderActions {

    /** Stands for the reason that whoever decides is yet to give. */
    private static final String SOME_REASON = "…";

    private OrderActions() {}

    public enum Action {
        /** Let open findings pass. */
        WAIVE,
        /** Agree to what an order says. */
        APPROVE,
        /** Waive all findings of a held order after a look at what it changes for others. */
        CLEAR,
        SEND_BACK,
        DECLINE,
        /** Take one's own order back. */
        RECALL,
        /** Ask those who can approve. */
        REMIND
    }

    /**
     * What an order is there for, in the order in which it is offered.
     *
     * @param asked approvals that the rules ask for; looked at only while it awaits one
     */
    public static List<Offered<Action>> of(
            Chain chain,
            List<Finding> findings,
            List<Ask> asked,
            List<Approval> approvals,
            Person person,
            LocalDate on) {
        var order = chain.order();
        var awaits = order.state() == OrderState.AWAITING_APPROVAL;
        var held = order.state() == OrderState.HELD;
        var open = order.state() == OrderState.DRAFT
                ? List.<Finding>of()
                : findings.stream().filter(Finding::isOpen).toList();
        var offered = new ArrayList<Offered<Action>>();
        if (awaits) {
            offered.add(
                    Offered.of(Action.APPROVE, Approving.approve(order, asked, approvals, person, SOME_REASON, on)));
        }
        if (!open.isEmpty()) {
            var waive = FindingDecisions.waive(
                    chain,
                    findings,
                    open.stream().map(Finding::check).collect(Collectors.toSet()),
                    person,
                    SOME_REASON,
                    on);
            offered.add(Offered.of(Action.WAIVE, waive));
            if (held) {
                offered.add(Offered.of(Action.CLEAR, waive));
            }
        }
        if (awaits || held) {
            offered.add(Offered.of(Action.SEND_BACK, Approving.sendBack(order, person, SOME_REASON)));
            offered.add(Offered.of(Action.DECLINE, FindingDecisions.decline(chain, person, SOME_REASON)));
        }
        if (awaits) {
            if (order.wasWrittenBy(person.username())) {
                offered.add(Offered.of(Action.RECALL, Approving.recall(order, person, SOME_REASON)));
            }
            if (offered.get(0).refusal().isPresent()) {
                offered.add(Offered.of(Action.REMIND));
            }
        }
        return List.copyOf(offered);
    }
}
