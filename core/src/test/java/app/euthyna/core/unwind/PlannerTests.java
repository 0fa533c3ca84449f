package app.euthyna.core.unwind;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

class PlannerTests {

    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    /** Ten ordered: six reserved, three of them staged, four wait. */
    private final Chain chain = staged(Chain.of(order("SO-1", OrderState.CLEARED, stock(1, "A", "10", "2.00", "0")))
            .after(new Effect.StockReserved(new LineRef("SO-1", 1), "S", "A", q(6))));

    private static Chain staged(Chain chain) {
        return chain.after(Dispatching.stage(chain, "D-1", TODAY, List.of(new Pick(1, q(3))))
                .get());
    }

    private static Decision<Plan> plan(Chain chain, Intent intent, String reason) {
        return Planner.plan(
                new UnwindContext(
                        List.of(chain), Map.of(), List.of(), List.of(), Optional.empty(), RefundRules.Bounds.NONE),
                new UnwindRequest(intent, Choices.NONE, CONTROLLER, reason, "", TODAY, kind -> kind.prefix() + "1"));
    }

    private static List<Plan.Kind> kinds(Plan plan) {
        return plan.steps().stream().map(Plan.Step::kind).toList();
    }

    @Test
    void cancellingTheRestVoidsReleasesAndGivesUpInThatOrder() {
        var plan = plan(chain, new Intent.CancelRest(chain.order().number(), List.of()), "not wanted")
                .get();
        assertThat(kinds(plan))
                .containsExactly(Plan.Kind.VOID_STAGED, Plan.Kind.RELEASE_RESERVATION, Plan.Kind.CANCEL_QUANTITY);
        var after = chain.after(plan.effects());
        assertThat(after.flow(1)).satisfies(flow -> {
            assertThat(flow.cancelled()).isEqualTo(q(10));
            assertThat(flow.reserved().isZero()).isTrue();
            assertThat(flow.staged().isZero()).isTrue();
        });
        assertThat(after.settledState()).isEqualTo(OrderState.CANCELLED);
    }

    @Test
    void ofNamedLinesWhatWaitsGoesFirstAndWhatIsStagedStays() {
        var plan = plan(chain, new Intent.CancelRest(chain.order().number(), List.of(new Intent.Part(1, q(5)))), "less")
                .get();
        assertThat(kinds(plan)).containsExactly(Plan.Kind.RELEASE_RESERVATION, Plan.Kind.CANCEL_QUANTITY);
        assertThat(chain.after(plan.effects()).flow(1).reserved()).isEqualTo(q(2));
        var refused =
                plan(chain, new Intent.CancelRest(chain.order().number(), List.of(new Intent.Part(1, q(8)))), "less");
        assertThat(refused.refusals()).extracting(r -> r.code()).containsExactly("staged-goods");
        var tooMuch =
                plan(chain, new Intent.CancelRest(chain.order().number(), List.of(new Intent.Part(1, q(11)))), "less");
        assertThat(tooMuch.refusals())
                .extracting(r -> r.sentence())
                .containsExactly("Line 1 of order SO-1 has 10 open; 11 cannot be cancelled.");
    }

    @Test
    void stepsThatChangeNothingAreLeftOut() {
        var held = Chain.of(order("SO-2", OrderState.HELD, stock(1, "A", "10", "2.00", "0")));
        var plan = plan(held, new Intent.CancelOrder(held.order().number()), "sent twice")
                .get();
        assertThat(kinds(plan)).containsExactly(Plan.Kind.CANCEL_QUANTITY);
    }

    /** Ten ordered, six of them reserved; four are billed ahead and can't be given up, nor their goods. */
    @Test
    void whatWasBilledAheadKeepsItsGoods() {
        var cleared = Chain.of(order("SO-3", OrderState.CLEARED, stock(1, "A", "10", "2.00", "0")))
                .after(new Effect.StockReserved(new LineRef("SO-3", 1), "S", "A", q(6)));
        var billed = cleared.after(Billing.bill(
                        "C",
                        List.of(cleared),
                        List.of(new Billing.Share(new LineRef("SO-3", 1), q(4))),
                        new Billing.Terms("2026-1", TODAY, 30, "", true),
                        Set.of(OrderKind.STANDARD))
                .get());
        var after =
                billed.after(plan(billed, new Intent.CancelRest(billed.order().number(), List.of()), "less")
                        .get()
                        .effects());
        assertThat(after.flow(1).cancelled()).isEqualTo(q(6));
        assertThat(after.flow(1).reserved()).isEqualTo(q(4));
        assertThat(after.settledState()).isEqualTo(OrderState.CLEARED);
        var some = billed.after(plan(
                        billed,
                        new Intent.CancelRest(billed.order().number(), List.of(new Intent.Part(1, q(5)))),
                        "less")
                .get()
                .effects());
        assertThat(some.flow(1).reserved()).as("four waited and went first").isEqualTo(q(5));
        assertThat(plan(
                                billed,
                                new Intent.CancelRest(billed.order().number(), List.of(new Intent.Part(1, q(7)))),
                                "less")
                        .refusals())
                .extracting(r -> r.code())
                .containsExactly("more-than-open");
    }

    @Test
    void whatWasPaidAheadStandsInTheWayWhereNothingWouldBeLeftForIt() {
        var paid = Chain.of(order("SO-4", OrderState.CLEARED, stock(1, "A", "10", "2.00", "0")))
                .after(new Effect.DepositReceived("DP-1", "C", "SO-4", TODAY, eur("5.00")));
        assertThat(plan(paid, new Intent.CancelOrder(paid.order().number()), "no")
                        .refusals())
                .extracting(r -> r.code())
                .containsExactly("deposit-attached");
        assertThat(plan(paid, new Intent.CancelRest(paid.order().number(), List.of(new Intent.Part(1, q(9)))), "less")
                        .isRefused())
                .isFalse();
        var back = paid.after(new Effect.RefundGiven(
                "RF-1", "C", new DocumentRef(DocumentKind.DEPOSIT, "DP-1"), "SO-4", eur("5.00")));
        assertThat(plan(back, new Intent.CancelOrder(back.order().number()), "no")
                        .isRefused())
                .isFalse();
    }
}
