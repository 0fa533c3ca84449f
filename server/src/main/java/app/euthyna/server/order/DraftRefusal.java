package app.euthyna.server.order;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;

/** Refusals about drafts. */
sealed interface DraftRefusal extends Refusal {

    /** It is no draft any more. */
    @Code("order-submitted")
    record AlreadySubmitted(String order, OrderState state) implements DraftRefusal, Refusal.WrongState {}
}
