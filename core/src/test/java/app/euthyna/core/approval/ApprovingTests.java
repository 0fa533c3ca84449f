package app.euthyna.core.approval;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.approval.ApprovalRule.Circumstances;
import app.euthyna.core.approval.Approving.Approval;
import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.order.Content;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Role;
import app.euthyna.core.shared.RoleLimits;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

class ApprovingTests {

    private static final List<ApprovalRule> RULES = List.of(
            new ApprovalRule.NetAbove(eur("5000.00"), Level.CONTROLLER),
            new ApprovalRule.NetAbove(eur("25000.00"), Level.LEAD));
    private static final Circumstances USUAL = new Circumstances(false, false, GoodsForNothing.UNLIMITED);
    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);
    private static final Person LEAD = new Person("lead", Role.LEAD);

    private static Order awaiting(String quantity) {
        return order("SO-1", OrderState.AWAITING_APPROVAL, stock(1, "A", quantity, "100.00", "0"));
    }

    private static List<Ask> asked(Order order) {
        return Approving.asked(order, RULES, USUAL);
    }

    private static Decision<Approval> approve(Order order, Person person, Approval... before) {
        return Approving.approve(order, asked(order), List.of(before), person, "agreed", TODAY);
    }

    private static List<String> codes(Decision<?> decision) {
        return decision.refusals().stream().map(r -> r.code()).toList();
    }

    @Nested
    class Rules {

        @Test
        void askAboveTheBandAndNotAtIt() {
            assertThat(asked(awaiting("50"))).isEmpty();
            assertThat(asked(awaiting("51")))
                    .containsExactly(new Ask(Level.CONTROLLER, "net EUR 5,100.00 is above EUR 5,000.00"));
            assertThat(asked(awaiting("300"))).extracting(Ask::level).containsExactly(Level.CONTROLLER, Level.LEAD);
        }

        @Test
        void lookAtDiscountKindWaivedStopsAndFirstOrders() {
            var cheap = awaiting("1")
                    .withLines(List.of(stock(1, "A", "1", "100.00", "0")
                            .withPrice(new Price(new BigDecimal("100"), new BigDecimal("12.5")))));
            var rules = List.<ApprovalRule>of(
                    new ApprovalRule.DiscountAbove(new BigDecimal("12"), Level.CONTROLLER),
                    new ApprovalRule.OfKind(OrderKind.STANDARD, Level.LEAD),
                    new ApprovalRule.StopsWaived(Level.LEAD),
                    new ApprovalRule.FirstOrder(Level.LEAD));
            assertThat(Approving.asked(cheap, rules, new Circumstances(true, true, GoodsForNothing.UNLIMITED)))
                    .extracting(Ask::reason)
                    .containsExactly(
                            "line 1 has a discount of 12.5 %, more than 12 %",
                            "it is a standard order", "a stop was waived", "it is the customer's first order");
            assertThat(Approving.asked(cheap, rules, USUAL)).hasSize(2);
        }

        /** Section 15: clerk 100, controller 1,000 at list price, the finance lead without limit. */
        @Test
        void askForSomebodyWhoseLimitCoversGoodsForNothing() {
            assertThat(forNothing("10", "0", Role.CLERK)).isEmpty();
            assertThat(forNothing("11", "0", Role.CLERK))
                    .containsExactly(new Ask(
                            Level.CONTROLLER, "goods for nothing are EUR 110.00 at list price, above EUR 100.00"));
            assertThat(forNothing("101", "0", Role.CLERK))
                    .extracting(Ask::level)
                    .containsExactly(Level.LEAD);
            assertThat(forNothing("100", "0", Role.CONTROLLER)).isEmpty();
            assertThat(forNothing("101", "0", Role.CONTROLLER))
                    .extracting(Ask::level)
                    .containsExactly(Level.LEAD);
            assertThat(forNothing("100000", "0", Role.LEAD)).isEmpty();
            // the lowest limit of all who wrote it, and nothing where it is paid for
            assertThat(forNothing("11", "0", Role.CONTROLLER, Role.CLERK))
                    .extracting(Ask::level)
                    .containsExactly(Level.CONTROLLER);
            assertThat(forNothing("1000", "0.01", Role.CLERK)).isEmpty();
        }

        private static List<Ask> forNothing(String quantity, String price, Role... writers) {
            var limits = new RoleLimits(Map.of(Role.CLERK, eur("100.00"), Role.CONTROLLER, eur("1000.00")));
            return Approving.asked(
                    order("SO-1", OrderState.SUBMITTED, stock(1, "A", quantity, price, "0")),
                    List.of(),
                    new Circumstances(
                            false,
                            false,
                            new GoodsForNothing(limits, Map.of("A", BigDecimal.TEN), Set.of(writers), List.of())));
        }
    }

    @Nested
    class Decisions {

        @Test
        void needTheAuthorityFirstAndThenFourEyes() {
            assertThat(codes(approve(awaiting("60"), new Person("clerk", Role.CLERK))))
                    .containsExactly("not-authorised");
            assertThat(codes(approve(awaiting("60"), new Person("clerk", Role.CONTROLLER))))
                    .containsExactly("four-eyes");
            assertThat(approve(awaiting("60"), CONTROLLER).get().level()).isEqualTo(Level.CONTROLLER);
            assertThat(codes(approve(awaiting("60").withState(OrderState.CLEARED), CONTROLLER)))
                    .containsExactly("not-awaiting");
        }

        @Test
        void areTakenLevelByLevelByDifferentPeople() {
            var first = approve(awaiting("300"), CONTROLLER).get();
            assertThat(codes(approve(awaiting("300"), new Person("controller2", Role.CONTROLLER), first)))
                    .containsExactly("not-authorised");
            assertThat(approve(awaiting("300"), LEAD, first).get().level()).isEqualTo(Level.LEAD);
            var byLead = approve(awaiting("300"), LEAD).get();
            assertThat(byLead.level()).isEqualTo(Level.CONTROLLER);
            assertThat(codes(approve(awaiting("300"), LEAD, byLead))).containsExactly("four-eyes");
        }

        @Test
        void recallingIsForTheAuthorAndSendingBackForTheOthers() {
            assertThat(codes(Approving.recall(awaiting("60"), CONTROLLER, "why")))
                    .containsExactly("not-authorised");
            assertThat(Approving.recall(awaiting("60"), new Person("clerk", Role.CLERK), "wrong price")
                            .isRefused())
                    .isFalse();
            assertThat(codes(Approving.sendBack(awaiting("60"), new Person("clerk", Role.CLERK), "why")))
                    .containsExactly("not-authorised");
            assertThat(codes(Approving.sendBack(awaiting("60"), CONTROLLER, " ")))
                    .containsExactly("incomplete");
            assertThat(codes(Approving.sendBack(awaiting("60").withState(OrderState.CLEARED), CONTROLLER, "why")))
                    .containsExactly("not-awaiting");
        }
    }

    @Nested
    class Contents {

        private final Content decided = Content.of(awaiting("60"));

        @Test
        void coverLessAndDearerButNotMoreCheaperOrOther() {
            assertThat(decided.covers(Content.of(awaiting("59")))).isTrue();
            assertThat(decided.covers(Content.of(awaiting("61")))).isFalse();
            assertThat(decided.covers(Content.of(order("SO-1", OrderState.HELD, stock(1, "A", "60", "100.01", "0")))))
                    .isTrue();
            assertThat(decided.covers(Content.of(order("SO-1", OrderState.HELD, stock(1, "A", "60", "99.99", "0")))))
                    .isFalse();
            assertThat(decided.covers(Content.of(order("SO-1", OrderState.HELD, stock(1, "B", "1", "100.00", "0")))))
                    .isFalse();
            assertThat(decided.covers(Content.of(awaiting("60")
                            .withLines(
                                    List.of(stock(1, "A", "60", "100.00", "0"), stock(2, "A", "1", "100.00", "0"))))))
                    .isFalse();
        }

        /** Kept by a company whose orders could not name an address yet. */
        @Test
        void ofBeforeThereWereAddressesCoverWhatShipsToTheCustomer() {
            assertThat(new Content(decided.customer(), decided.site(), null, decided.lines())
                            .covers(Content.of(awaiting("60"))))
                    .isTrue();
        }

        /**
         * However an order is changed and decided on, none is without a pending level whose every level was not
         * approved by two hands.
         */
        @Test
        void areNeverThroughWithoutEveryLevelThatIsAskedFor() {
            var seed = Long.getLong("seed", System.nanoTime());
            var random = new Random(seed);
            var people = List.of(
                    CONTROLLER,
                    new Person("controller2", Role.CONTROLLER),
                    LEAD,
                    new Person("clerk", Role.CLERK),
                    new Person("admin", Role.ADMIN));
            for (int history = 0; history < Rounds.of(500); history++) {
                var approvals = new ArrayList<Approval>();
                var now = awaiting("1");
                for (int step = 0; step < 25; step++) {
                    if (random.nextInt(3) == 0) {
                        now = order(
                                "SO-1",
                                OrderState.AWAITING_APPROVAL,
                                stock(
                                        1,
                                        "A",
                                        String.valueOf(1 + random.nextInt(400)),
                                        50 + random.nextInt(100) + ".00",
                                        "0"));
                    } else {
                        approve(now, people.get(random.nextInt(people.size())), approvals.toArray(Approval[]::new))
                                .result()
                                .ifPresent(approvals::add);
                    }
                    var line = now.line(1);
                    var current = Content.of(now);
                    var covering = approvals.stream()
                            .filter(a -> a.content().covers(current))
                            .toList();
                    if (Approving.pending(now, asked(now), approvals).isEmpty()) {
                        var needed = now.totals().net().compareTo(eur("25000.00")) > 0
                                ? 2
                                : now.totals().net().compareTo(eur("5000.00")) > 0 ? 1 : 0;
                        assertThat(covering.stream()
                                        .map(Approval::level)
                                        .distinct()
                                        .count())
                                .as("seed %d: %s at %s", seed, line.quantity(), line.price())
                                .isGreaterThanOrEqualTo(needed);
                        assertThat(covering)
                                .as("seed %d", seed)
                                .allMatch(a -> !a.by().equals("clerk")
                                        && !a.content()
                                                .lines()
                                                .get(0)
                                                .quantity()
                                                .minus(line.quantity())
                                                .isNegative());
                    }
                }
            }
        }
    }
}
