package app.euthyna.server.check;

import app.euthyna.core.approval.OrderActions;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.check.Finding;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import jakarta.annotation.Nullable;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;

/**
 * Says whether an order that no finding holds may go on, or must wait for someone's word. Answered by the approvals.
 */
public interface Clearance {

    /** Cleared, or awaiting approval; a request that is asked for is kept. */
    OrderState decide(CommandContext context, Chain chain, List<Finding> findings, Occasion occasion);

    /** Why an order as it is written now would have to wait. */
    List<String> asks(Order order);

    /** How an order's request for approval stands; null where none was ever asked for. */
    RequestView requestOf(String order);

    /** What can be decided on an order as it stands, by whoever asks and by others. */
    List<ActionView> actions(CommandContext context, Chain chain, List<Finding> findings);

    /**
     * Something that an order is there for.
     *
     * @param refused why whoever asks can't do it; null where they can
     */
    record ActionView(OrderActions.Action action, @Nullable String refused) {}

    /** What orders by their id wait for, in a few words, and since when. */
    Map<Long, Wait> waiting(Collection<Long> orders);

    /** Whose word an order waits for. */
    record Wait(String brief, LocalDate since) {}

    /**
     * Somebody's approval.
     *
     * @param level in words
     */
    record ApprovalView(String level, String by, LocalDate on, String reason) {}

    /**
     * A request for approval.
     *
     * @param waitsFor whose word is asked for next, in words; null once it is closed
     * @param roles who may give it; empty once it is closed
     * @param closing the reason that was given with the last step
     */
    record RequestView(
            String state,
            LocalDate askedOn,
            List<String> reasons,
            @Nullable String waitsFor,
            List<Role> roles,
            List<ApprovalView> approvals,
            @Nullable String closedBy,
            @Nullable LocalDate closedOn,
            @Nullable String closing) {}
}
