package app.euthyna.core.approval;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.approval.OrderActions.Action;
import app.euthyna.core.check.CustomerRules;
import app.euthyna.core.check.Evidence;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.Severity;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Offered;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class OrderActionsTests {

    private static final Finding BLOCKED = new Finding(
            Severity.STOP,
            Finding.State.OPEN,
            new Evidence.Blocked(new CustomerRules.Block("lead", TODAY, "does not pay")),
            TODAY,
            Optional.empty());
    private static final List<Ask> TWO_LEVELS =
            List.of(new Ask(Level.CONTROLLER, "net is above 5,000"), new Ask(Level.LEAD, "net is above 25,000"));
    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);
    private static final Person AUTHOR = new Person("clerk", Role.CLERK);

    private static List<Offered<Action>> offered(OrderState state, List<Finding> findings, Person person) {
        var chain = Chain.of(order("SO-1", state, stock(1, "A", "1", "100.00", "0")));
        return OrderActions.of(chain, findings, TWO_LEVELS, List.of(), person, TODAY);
    }

    private static List<Action> allowed(List<Offered<Action>> offered) {
        return offered.stream()
                .filter(one -> one.refusal().isEmpty())
                .map(Offered::action)
                .toList();
    }

    private static String why(List<Offered<Action>> offered, Action action) {
        return offered.stream()
                .filter(one -> one.action() == action)
                .findFirst()
                .flatMap(Offered::refusal)
                .map(Refusal::code)
                .orElse("");
    }

    @Nested
    class OfAHeldOrder {

        @Test
        void areAllForAControllerWhoDidNotWriteIt() {
            assertThat(allowed(offered(OrderState.HELD, List.of(BLOCKED), CONTROLLER)))
                    .containsExactly(Action.WAIVE, Action.CLEAR, Action.SEND_BACK, Action.DECLINE);
        }

        @ParameterizedTest
        @EnumSource(
                value = Role.class,
                names = {"CLERK", "WAREHOUSE", "RECEIVABLES", "AUDITOR", "ADMIN"})
        void areShownToOthersWithTheReasonWhyTheyCannot(Role role) {
            var seen = offered(OrderState.HELD, List.of(BLOCKED), new Person("somebody", role));
            assertThat(allowed(seen)).isEmpty();
            assertThat(seen)
                    .hasSize(4)
                    .allSatisfy(one ->
                            assertThat(one.refusal().orElseThrow().code()).isEqualTo("not-authorised"));
        }

        @Test
        void areNobodysOwn() {
            var own = offered(OrderState.HELD, List.of(BLOCKED), new Person("clerk", Role.LEAD));
            assertThat(allowed(own)).isEmpty();
            assertThat(why(own, Action.DECLINE)).isEqualTo("four-eyes");
        }

        @Test
        void areGivenInPlaceOfAControllerWhoIsAway() {
            var deputy = new Person("deputy", Role.RECEIVABLES, Set.of(Role.CONTROLLER));
            assertThat(allowed(offered(OrderState.HELD, List.of(BLOCKED), deputy)))
                    .contains(Action.WAIVE, Action.DECLINE);
        }
    }

    @Nested
    class OfOneThatAwaitsApproval {

        @Test
        void areForTheLevelThatIsNext() {
            assertThat(allowed(offered(OrderState.AWAITING_APPROVAL, List.of(), CONTROLLER)))
                    .containsExactly(Action.APPROVE, Action.SEND_BACK, Action.DECLINE);
        }

        @Test
        void areToRecallAndToRemindForItsAuthor() {
            var seen = offered(OrderState.AWAITING_APPROVAL, List.of(), AUTHOR);
            assertThat(allowed(seen)).containsExactly(Action.RECALL, Action.REMIND);
            assertThat(why(seen, Action.APPROVE)).isEqualTo("not-authorised");
        }

        @Test
        void areNotToRecallForAnybodyElse() {
            assertThat(offered(OrderState.AWAITING_APPROVAL, List.of(), CONTROLLER))
                    .extracting(Offered::action)
                    .doesNotContain(Action.RECALL, Action.REMIND);
        }
    }

    @Test
    void ofAClearedOrderAreToWaiveWhatWasFoundSince() {
        assertThat(offered(OrderState.CLEARED, List.of(), CONTROLLER)).isEmpty();
        assertThat(allowed(offered(OrderState.CLEARED, List.of(BLOCKED), CONTROLLER)))
                .containsExactly(Action.WAIVE);
    }

    @ParameterizedTest
    @EnumSource(
            value = OrderState.class,
            names = {"DRAFT", "DECLINED", "CANCELLED", "COMPLETED"})
    void areNoneWhereNothingIsToBeDecided(OrderState state) {
        assertThat(offered(state, List.of(), CONTROLLER)).isEmpty();
    }
}
