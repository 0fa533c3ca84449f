package app.euthyna.core.goods;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Refusal;
import java.util.List;
import java.util.Optional;

/** What can be done with a dispatch as it stands: the same rules that the deed itself goes by, asked before it. */
public final class DispatchActions {

    private DispatchActions() {}

    public enum Action {
        /** Its goods leave the building. */
        DEPART,
        /** Its goods go back to the shelf. */
        VOID,
        /** A carrier is told to fetch it. */
        BOOK_CARRIER
    }

    /**
     * What a dispatch is there for, in the order in which it is offered; nothing once it has left or was voided.
     *
     * @param orderState of its order, which goods leave for only while it is cleared
     */
    public static List<Offered<Action>> of(Dispatch.State state, String order, OrderState orderState) {
        return state == Dispatch.State.STAGED
                ? List.of(
                        new Offered<>(Action.DEPART, notCleared(order, orderState)),
                        Offered.of(Action.VOID),
                        Offered.of(Action.BOOK_CARRIER))
                : List.of();
    }

    /** Goods leave for an order only while nothing holds it. */
    static Optional<Refusal> notCleared(String order, OrderState state) {
        return state == OrderState.CLEARED ? Optional.empty() : Optional.of(new OrderRefusal.NotCleared(order, state));
    }
}
