package app.euthyna.core.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Return;
import app.euthyna.core.ledger.Periods;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Role;
import java.util.List;

/**
 * Turns an intent over chains into a plan, or says what stands in the way (section 9). One pure function: the same
 * chains, intent, person and date always give the same plan.
 */
public final class Planner {

    static final List<Role> MAY_UNDO = List.of(Role.CONTROLLER, Role.LEAD);
    private static final Postings POSTINGS = new Postings(item -> "", customer -> "");

    private Planner() {}

    /** Plans an intent. */
    public static Decision<Plan> plan(Scene scene, Undoing undoing) {
        if (!undoing.person().decides()) {
            return Decision.refused(new CommonRefusal.NotAuthorised(
                    "undo documents", undoing.person().role(), MAY_UNDO));
        }
        if (undoing.reason().isBlank()) {
            return Decision.refused(CommonRefusal.Incomplete.of("reason", "why it is undone"));
        }
        var planned = undoing.intent().accept(new ByIntent(scene, undoing));
        return openPeriod(planned, scene, undoing);
    }

    /**
     * What is left of a plan that waits for a return's goods, or for somebody's word on the money: the first steps may
     * be possible now. Nothing is left where the goods were given up.
     *
     * @param goods the return, as it stands
     */
    public static Decision<Plan> rest(Scene scene, Undoing undoing, Return goods) {
        var steps = goods.anyReceived() || goods.expectsMore()
                ? new Rest(scene, undoing).expected(goods, scene.chains())
                : List.<Plan.Step>of();
        var zero = Money.zero(scene.chains().get(0).order().currency());
        return openPeriod(Decision.of(new Plan(undoing.intent().words(), zero, steps, List.of())), scene, undoing);
    }

    /** Gives back what a plan had set free and somebody has agreed to now, as far as it is still there. */
    public static Decision<Plan> refund(Scene scene, Undoing undoing, List<Effect.Refunded> agreed) {
        return openPeriod(new GivingMoneyBack(scene, undoing).agreed(agreed), scene, undoing);
    }

    private record ByIntent(Scene scene, Undoing undoing) implements Intent.Visitor<Decision<Plan>> {

        @Override
        public Decision<Plan> cancelRest(Intent.CancelRest intent) {
            return new Cancelling(scene.order(intent.order()), scene, undoing).rest(intent);
        }

        @Override
        public Decision<Plan> cancelOrder(Intent.CancelOrder intent) {
            return new Cancelling(scene.order(intent.order()), scene, undoing).order();
        }

        @Override
        public Decision<Plan> takeBackInvoice(Intent.TakeBackInvoice intent) {
            return new TakingBack(scene, undoing).invoice(scene.invoice(intent.invoice()), intent.withDispatch());
        }

        @Override
        public Decision<Plan> takeBackDispatch(Intent.TakeBackDispatch intent) {
            return new TakingBack(scene, undoing).dispatch(intent.dispatch());
        }

        @Override
        public Decision<Plan> takeGoodsBack(Intent.TakeGoodsBack intent) {
            return new TakingGoodsBack(scene, undoing).plan(intent);
        }

        @Override
        public Decision<Plan> giveMoneyBack(Intent.GiveMoneyBack intent) {
            return new GivingMoneyBack(scene, undoing).plan(intent);
        }
    }

    /** What posts now must be dated in an open period. */
    static Decision<Plan> openPeriod(Decision<Plan> planned, Scene scene, Undoing undoing) {
        if (planned.isRefused()
                || planned.get().now().stream()
                        .flatMap(step -> step.effects().stream())
                        .noneMatch(Planner::posts)) {
            return planned;
        }
        return Periods.refusal(undoing.on(), scene.closedThrough())
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
