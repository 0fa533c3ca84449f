package app.euthyna.server.check;

import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Checks orders again when they have changed, at once; the other orders of their customers, and those that are short of
 * an item, when the command is done: see {@link Rechecks}.
 */
@Component
@Order(70)
class CheckSink implements EffectSink {

    private static final EffectHandlers<Answer, Boolean> ANSWERS = EffectHandlers.<Answer>deeds()
            .on(Effect.OrderSubmitted.class, Answer::orderSubmitted)
            .on(Effect.OrderChanged.class, Answer::orderChanged)
            .on(Effect.StateChanged.class, Answer::stateChanged)
            .on(Effect.StockReserved.class, Answer::stockReserved)
            .on(Effect.DispatchDeparted.class, Answer::dispatchDeparted)
            .on(Effect.InvoicePosted.class, Answer::maybeEnded)
            .on(Effect.InvoiceReversed.class, Answer::maybeEnded)
            .on(Effect.DispatchReversed.class, Answer::dispatchReversed)
            .on(Effect.ReturnReceived.class, Answer::maybeEnded)
            .on(Effect.ReturnInspected.class, Answer::maybeEnded)
            .on(Effect.InspectionReversed.class, Answer::maybeEnded)
            .on(Effect.ReceiptReversed.class, Answer::maybeEnded)
            .on(Effect.CreditNotePosted.class, Answer::maybeEnded)
            .on(Effect.CreditNoteReversed.class, Answer::maybeEnded)
            .on(Effect.ReservationTransferred.class, Answer::reservationTransferred)
            .on(Effect.QuantityCancelled.class, Answer::quantityCancelled)
            .othersDoNotConcernIt();

    private final ChainReader chains;
    private final Checking checking;
    private final RecheckQueries queries;
    private final Locks locks;
    private final Ids ids;

    CheckSink(ChainReader chains, Checking checking, RecheckQueries queries, Locks locks, Ids ids) {
        this.chains = chains;
        this.checking = checking;
        this.queries = queries;
        this.locks = locks;
        this.ids = ids;
    }

    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        batch.forEach(effect -> ANSWERS.of(new Answer(context, further), effect));
    }

    /** The order itself, at once: it is the command's own, and its customer is locked. */
    private final class Answer {

        private final CommandContext context;
        private final Further further;

        private Answer(CommandContext context, Further further) {
            this.context = context;
            this.further = further;
        }

        private void orderSubmitted(Effect.OrderSubmitted effect) {
            check(effect.order().number(), Occasion.SUBMITTED, Optional.empty());
        }

        private void orderChanged(Effect.OrderChanged effect) {
            var now = chains.chain(effect.after().number());
            check(effect.after().number(), Occasion.CHANGED, Optional.of(now.after(reverse(effect))));
        }

        private void stateChanged(Effect.StateChanged effect) {
            if (effect.to().isEnded()) {
                check(effect.order(), Occasion.WORLD_CHANGED, Optional.empty());
            }
        }

        /** Stock may be handed to an order of a customer that nobody has locked: that one is looked at afterwards. */
        private void stockReserved(Effect.StockReserved effect) {
            var order = effect.orderLine().number();
            if (queries.wasShort(order)
                    && locks.holdsCustomer(
                            ids.customer(chains.chain(order).order().customer()))) {
                check(order, Occasion.WORLD_CHANGED, Optional.empty());
            }
        }

        private void dispatchDeparted(Effect.DispatchDeparted effect) {
            settle(Set.of(effect.dispatch().order()));
        }

        private void dispatchReversed(Effect.DispatchReversed effect) {
            settle(Set.of(effect.dispatch().order()));
        }

        private void reservationTransferred(Effect.ReservationTransferred effect) {
            check(effect.from().number(), Occasion.WORLD_CHANGED, Optional.empty());
            check(effect.to().number(), Occasion.WORLD_CHANGED, Optional.empty());
        }

        private void quantityCancelled(Effect.QuantityCancelled effect) {
            check(effect.cancellation().order(), Occasion.WORLD_CHANGED, Optional.empty());
        }

        private void maybeEnded(Effect effect) {
            settle(effect.orders());
        }

        /** The documents may have brought the orders to their end. */
        private void settle(Set<String> orders) {
            orders.stream().sorted().forEach(order -> write(checking.settle(context, order)));
        }

        private void check(String order, Occasion occasion, Optional<Chain> was) {
            write(checking.check(context, order, occasion, was).change());
        }

        private void write(Optional<Effect> change) {
            change.ifPresent(one -> further.write(context, List.of(one)));
        }
    }

    /** The change that takes a change back. */
    private static Effect.OrderChanged reverse(Effect.OrderChanged change) {
        var changed = change.after();
        var unchanged = change.before();
        return new Effect.OrderChanged(changed, unchanged, List.of());
    }
}
