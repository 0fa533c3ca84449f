package app.euthyna.core.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Return;
import app.euthyna.core.ledger.Periods;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.util.List;

/**
 * Turns an intent over chains into a plan, or says what stands in the way (section 9). One pure function: the same
 * chains, intent, person and date always give the same plan.
 */
public final class Planner {

    static final List<Role> MAY_UNDO = Person.DECIDING;
    private static final Postings POSTINGS = new Postings(item -> "", customer -> "");

    private Planner() {}

    /** Plans an intent. */
    public static Decision<Plan> plan(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        if (!unwindRequest.person().decides()) {
            return Decision.refused(new CommonRefusal.NotAuthorised(
                    "unwind documents", unwindRequest.person().role(), MAY_UNDO));
        }
        if (unwindRequest.reason().isBlank()) {
            return Decision.refused(CommonRefusal.Incomplete.of("reason", "a reason"));
        }
        var planned = unwindRequest.intent().accept(new ByIntent(unwindContext, unwindRequest));
        return openPeriod(planned, unwindContext, unwindRequest);
    }

    /**
     * What is left of a plan that waits for a return's goods, or for someone's word on the money: the first steps may
     * be possible now. Nothing is left where the goods were given up.
     *
     * @param goods the return, as it stands
     */
    public static Decision<Plan> rest(UnwindContext unwindContext, UnwindRequest unwindRequest, Return goods) {
        var steps = goods.anyReceived() || goods.expectsMore()
                ? new RemainingReturnSteps(unwindContext, unwindRequest).expected(goods, unwindContext.chains())
                : List.<Plan.Step>of();
        var zero = Money.zero(unwindContext.chains().get(0).order().currency());
        return openPeriod(
                Decision.of(new Plan(unwindRequest.intent().words(), zero, steps, List.of())),
                unwindContext,
                unwindRequest);
    }

    /** Refunds what a plan had set free and someone has agreed to now, as far as it is still there. */
    public static Decision<Plan> refund(
            UnwindContext unwindContext, UnwindRequest unwindRequest, List<Effect.RefundGiven> agreed) {
        return openPeriod(
                new GivingMoneyBack(unwindContext, unwindRequest).agreed(agreed), unwindContext, unwindRequest);
    }

    private record ByIntent(UnwindContext unwindContext, UnwindRequest unwindRequest)
            implements Intent.Visitor<Decision<Plan>> {

        @Override
        public Decision<Plan> cancelRest(Intent.CancelRest intent) {
            return new Cancelling(unwindContext.order(intent.order()), unwindContext, unwindRequest).rest(intent);
        }

        @Override
        public Decision<Plan> cancelOrder(Intent.CancelOrder intent) {
            return new Cancelling(unwindContext.order(intent.order()), unwindContext, unwindRequest).order();
        }

        @Override
        public Decision<Plan> takeBackInvoice(Intent.TakeBackInvoice intent) {
            return new TakingBack(unwindContext, unwindRequest)
                    .invoice(unwindContext.invoice(intent.invoice()), intent.withDispatch());
        }

        @Override
        public Decision<Plan> takeBackDispatch(Intent.TakeBackDispatch intent) {
            return new TakingBack(unwindContext, unwindRequest).dispatch(intent.dispatch());
        }

        @Override
        public Decision<Plan> takeGoodsBack(Intent.TakeGoodsBack intent) {
            return new TakingGoodsBack(unwindContext, unwindRequest).plan(intent);
        }

        @Override
        public Decision<Plan> giveMoneyBack(Intent.GiveMoneyBack intent) {
            return new GivingMoneyBack(unwindContext, unwindRequest).plan(intent);
        }

        @Override
        public Decision<Plan> takeBack(Intent.TakeBack intent) {
            var reversing = new Reversing(unwindContext, unwindRequest);
            return switch (intent.subject().kind()) {
                case CREDIT_NOTE -> reversing.credit(intent.subject());
                case PAYMENT -> reversing.payment(intent.subject());
                case DEPOSIT -> reversing.deposit(intent.subject());
                case REFUND -> reversing.refund(intent.subject());
                case WRITE_OFF -> reversing.writeOff(intent.subject());
                case RETURN -> new ReversingReceipt(unwindContext, unwindRequest).plan(intent);
                default -> throw new IllegalArgumentException(intent.toString());
            };
        }
    }

    /** What posts now must be dated in an open period. */
    static Decision<Plan> openPeriod(Decision<Plan> planned, UnwindContext unwindContext, UnwindRequest unwindRequest) {
        if (planned.isRefused()
                || planned.get().now().stream()
                        .flatMap(step -> step.effects().stream())
                        .noneMatch(Planner::posts)) {
            return planned;
        }
        return Periods.refusal(unwindRequest.on(), unwindContext.closedThrough())
                .<Decision<Plan>>map(Decision::refused)
                .orElse(planned);
    }

    private static boolean posts(Effect effect) {
        return Postings.mirrored(effect).isPresent() || POSTINGS.of(effect).isPresent();
    }

    static Plan.Step now(Plan.Kind kind, String sentence, List<? extends Effect> effects) {
        return new Plan.Step(kind, sentence, Plan.Timing.NOW, MAY_UNDO, List.copyOf(effects));
    }
}
