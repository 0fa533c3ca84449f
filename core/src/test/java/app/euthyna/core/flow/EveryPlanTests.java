package app.euthyna.core.flow;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Plan;
import app.euthyna.core.unwind.Planner;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/**
 * Every planner over orders to which anything may have happened: what it plans is carried out on values, and the books
 * must follow from the documents; what it refuses changes nothing; and nothing is done twice.
 */
class EveryPlanTests {

    private static final int HISTORIES = 150;
    private static final int STEPS = 30;

    private final Map<String, Integer> planned = new TreeMap<>();
    private final Map<String, Integer> refused = new TreeMap<>();

    @Test
    void leavesBooksThatFollowFromTheDocuments() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("every plan from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        for (int history = 0; history < Rounds.of(HISTORIES); history++) {
            for (var intent : intents(lived(seed, history))) {
                carryOut(lived(seed, history), intent);
            }
        }
        if (Rounds.areAll()) {
            assertThat(planned.keySet())
                    .as("each planner has planned something")
                    .containsExactlyInAnyOrder(
                            "cancel-order",
                            "cancel-rest",
                            "give-money-back",
                            "take-back-credit",
                            "take-back-deposit",
                            "take-back-dispatch",
                            "take-back-invoice",
                            "take-back-payment",
                            "take-back-receipt",
                            "take-back-refund",
                            "take-back-write-off",
                            "take-goods-back");
            assertThat(refused.keySet()).as("and refused something").hasSizeGreaterThanOrEqualTo(5);
        }
    }

    private static RandomHistory lived(long seed, int history) {
        var one =
                new RandomHistory(new Random(seed + history), "seed " + seed + ", history " + history, new TreeMap<>());
        for (int step = 0; step < STEPS; step++) {
            one.step();
        }
        // goods come back seldom in so few steps: in every third history a few do at the end
        for (int back = 0; history % 3 == 0 && back < 12; back++) {
            one.goodsBack();
        }
        return one;
    }

    /** All that could be asked for of what is there. */
    private static List<Intent> intents(RandomHistory history) {
        var intents = new ArrayList<Intent>();
        for (var chain : history.chains.values()) {
            var number = chain.order().number();
            intents.add(new Intent.CancelOrder(number));
            intents.add(new Intent.CancelRest(number, List.of()));
            intents.add(new Intent.CancelRest(number, List.of(new Intent.Part(1, Quantity.of(1)))));
            intents.add(new Intent.TakeGoodsBack(DocumentRef.order(number), List.of()));
            intents.add(new Intent.GiveMoneyBack(DocumentRef.order(number)));
            chain.dispatches().forEach(dispatch -> intents.add(new Intent.TakeBackDispatch(dispatch.number())));
            chain.invoices().forEach(invoice -> {
                intents.add(new Intent.TakeBackInvoice(invoice.number(), false));
                intents.add(new Intent.TakeBackInvoice(invoice.number(), true));
                intents.add(
                        new Intent.TakeGoodsBack(new DocumentRef(DocumentKind.INVOICE, invoice.number()), List.of()));
            });
        }
        history.documents().forEach(document -> intents.add(new Intent.TakeBack(document, false)));
        return intents;
    }

    private void carryOut(RandomHistory history, Intent intent) {
        var before = history.balances();
        var flows = history.flows();
        var decision = Planner.plan(history.unwindContext(intent), history.unwindRequest(intent));
        if (decision.isRefused()) {
            refused.merge(intent.code(), 1, Integer::sum);
            assertThat(decision.refusals())
                    .allSatisfy(refusal -> assertThat(refusal.sentence())
                            .as("%s of %s", refusal.code(), intent)
                            .isNotBlank());
            assertThat(history.balances()).isEqualTo(before);
            assertThat(history.flows()).isEqualTo(flows);
            return;
        }
        planned.merge(intent.code(), 1, Integer::sum);
        var plan = decision.get();
        assertThat(plan.steps())
                .as("%s: %s does something", history.name, intent)
                .isNotEmpty();
        plan.now().forEach(step -> step.effects().forEach(history::happen));
        history.check();
        if (plan.now().equals(plan.steps())) {
            isDone(history, intent, plan);
        }
    }

    private static void isDone(RandomHistory history, Intent intent, Plan plan) {
        var what = "%s: %s by %s".formatted(history.name, intent, plan.steps());
        if (intent instanceof Intent.CancelOrder cancel) {
            var chain = history.chains.get(cancel.order());
            assertThat(chain.settledState()).as(what).isEqualTo(OrderState.CANCELLED);
            assertThat(chain.reserved()).as(what).isEmpty();
        }
        if (intent instanceof Intent.CancelRest rest && rest.lines().isEmpty()) {
            assertThat(history.chains.get(rest.order()).flows())
                    .as(what)
                    .allSatisfy(flow -> assertThat(flow.waiting().isPositive()
                                    && flow.toBillAhead().isPositive())
                            .as(
                                    "line %s still waits, and was not billed ahead",
                                    flow.line().no())
                            .isFalse());
        }
        if (intent instanceof Intent.TakeBackInvoice back) {
            assertThat(history.invoice(back.invoice()).reversed()).as(what).isTrue();
            assertThat(refusals(history, intent)).as(what).containsExactly("already-reversed");
        }
        if (intent instanceof Intent.TakeBackDispatch back) {
            assertThat(history.chains.values().stream()
                            .flatMap(chain -> chain.dispatches().stream())
                            .filter(dispatch -> dispatch.number().equals(back.dispatch())))
                    .as(what)
                    .extracting(Dispatch::state)
                    .isSubsetOf(Dispatch.State.REVERSED, Dispatch.State.VOIDED)
                    .isNotEmpty();
            assertThat(refusals(history, intent)).as(what).isNotEmpty();
        }
    }

    private static List<String> refusals(RandomHistory history, Intent intent) {
        return Planner.plan(history.unwindContext(intent), history.unwindRequest(intent)).refusals().stream()
                .map(refusal -> refusal.code())
                .toList();
    }
}
