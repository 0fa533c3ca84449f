package app.euthyna.core.approval;

import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;

/** Why a step of an approval can't be taken. */
public sealed interface ApprovalRefusal extends Refusal {

    /** The order does not wait for a decision. */
    @Code("not-awaiting")
    record NotAwaiting(String order, OrderState state) implements ApprovalRefusal, Refusal.WrongState {}

    /** Only who wrote the order may take the request back. */
    @Code("not-authorised")
    record NotTheAuthor(String order, String author, String username)
            implements ApprovalRefusal, Refusal.NotAuthorised {}
}
