package app.euthyna.core.check;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ChecksTests {

    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);
    private static final Chain CHAIN = Chain.of(order("SO-1", OrderState.SUBMITTED, stock(1, "A", "10", "10.00", "0")));

    private static Surroundings owing(String unpaid, String limit) {
        var nothing = Term.nothing(EUR);
        var position = new CustomerPosition(new Term(eur(unpaid), List.of()), nothing, nothing, nothing);
        return new Surroundings(TODAY, new CustomerRules("C", Optional.of(eur(limit)), PoPolicy.STANDARD, Optional.empty(), Optional.empty()), position, List.of(), List.of(), Map.of(), Map.of(),
                Map.of(), Map.of("A", q(100)), CheckPolicy.STANDARD);
    }

    private static List<Finding> run(Surroundings around, List<Finding> before) {
        return Checks.run(CHAIN, around, before, Checks.Occasion.SUBMITTED, Optional.empty());
    }

    @Nested
    class CreditLimit {

        @Test
        void exposureAtTheLimitPassesAndOneCentMoreDoesNot() {
            assertThat(run(owing("900.00", "1000.00"), List.of())).isEmpty();
            var findings = run(owing("900.01", "1000.00"), List.of());
            assertThat(findings).singleElement().satisfies(f -> {
                assertThat(f.holds()).isTrue();
                assertThat(f.evidence().sentence()).isEqualTo("the customer would be EUR 0.01 over the limit");
            });
            assertThat(Checks.stateOf(CHAIN, findings)).isEqualTo(OrderState.HELD);
        }
    }

    @Nested
    class Others {

        private Surroundings around(int granted, String above, LocalDate due, String open, Map<String, BigDecimal> floors, Optional<CustomerRules.Block> block) {
            var plain = owing("0.00", "100000.00");
            return new Surroundings(TODAY, new CustomerRules("C", Optional.empty(), PoPolicy.STANDARD, Optional.of(new CustomerRules.Overdue(granted, eur(above))), block),
                    plain.position(), List.of(), List.of(new Surroundings.DueInvoice("2026-1", due, eur(open))), floors, Map.of(), Map.of(), Map.of("A", q(100)),
                    CheckPolicy.STANDARD);
        }

        private List<String> sentences(Surroundings around) {
            return run(around, List.of()).stream().map(f -> f.evidence().sentence()).toList();
        }

        @Test
        void invoicesCountMoreThanTheDaysPastDueAndAboveTheFloorOnly() {
            assertThat(sentences(around(30, "0.00", TODAY.minusDays(30), "5.00", Map.of(), Optional.empty()))).isEmpty();
            assertThat(sentences(around(30, "0.00", TODAY.minusDays(31), "5.00", Map.of(), Optional.empty())))
                    .containsExactly("invoice 2026-1 with EUR 5.00 open is 31 days past due");
            assertThat(sentences(around(30, "5.00", TODAY.minusDays(31), "5.00", Map.of(), Optional.empty()))).isEmpty();
        }

        @Test
        void pricesAfterDiscountAreHeldAgainstTheFloor() {
            assertThat(sentences(around(30, "0.00", TODAY, "5.00", Map.of("A", new BigDecimal("10.0000")), Optional.empty()))).isEmpty();
            assertThat(sentences(around(30, "0.00", TODAY, "5.00", Map.of("A", new BigDecimal("10.0050")), Optional.empty())))
                    .containsExactly("line 1 goes at 10.00, its floor is 10.005");
        }

        @Test
        void aBlockStopsAndAnotherBlockOpensAWaivedOneAgain() {
            var block = new CustomerRules.Block("lead", TODAY, "disputes every bill");
            var found = run(around(30, "0.00", TODAY, "5.00", Map.of(), Optional.of(block)), List.of());
            assertThat(found).singleElement().matches(Finding::holds);
            var waived = Deciding.waive(CHAIN, found, Set.of(Check.BLOCKED), CONTROLLER, "this one is paid", TODAY).get();
            assertThat(run(around(30, "0.00", TODAY, "5.00", Map.of(), Optional.of(block)), waived)).noneMatch(Finding::isOpen);
            assertThat(run(around(30, "0.00", TODAY, "5.00", Map.of(), Optional.of(new CustomerRules.Block("lead", TODAY, "again"))), waived)).allMatch(Finding::isOpen);
        }
    }

    @Nested
    class Waivers {

        private final List<Finding> waived = Deciding.waive(CHAIN, run(owing("950.00", "1000.00"), List.of()), Set.of(Check.CREDIT_LIMIT),
                CONTROLLER, "paid tomorrow", TODAY).get();

        @Test
        void lastWhileTheEvidenceIsNoWorse() {
            assertThat(run(owing("950.00", "1000.00"), waived)).singleElement().matches(f -> f.state() == Finding.State.WAIVED);
            assertThat(run(owing("920.00", "1000.00"), waived)).singleElement().matches(f -> f.state() == Finding.State.WAIVED);
        }

        @Test
        void openAgainWhenItGetsWorse() {
            assertThat(run(owing("950.01", "1000.00"), waived)).singleElement().matches(Finding::isOpen);
        }

        @Test
        void areSettledWhenNothingIsFoundAnyMore() {
            assertThat(run(owing("100.00", "1000.00"), waived)).singleElement().matches(f -> f.state() == Finding.State.SETTLED);
        }

        @Test
        void areForControllersAndNeverForTheAuthorAuthorityFirst() {
            var findings = run(owing("950.00", "1000.00"), List.of());
            var clerk = Deciding.waive(CHAIN, findings, Set.of(Check.CREDIT_LIMIT), new Person("clerk", Role.CLERK), "why not", TODAY);
            assertThat(clerk.refusals()).extracting(r -> r.code()).containsExactly("not-authorised");
            var author = Deciding.waive(CHAIN, findings, Set.of(Check.CREDIT_LIMIT), new Person("clerk", Role.CONTROLLER), "why not", TODAY);
            assertThat(author.refusals()).extracting(r -> r.code()).containsExactly("four-eyes");
        }
    }

    @Nested
    class PoNumbers {

        @ParameterizedTest
        @CsvSource({"PO 004417-B,4417B", "' p.o. 4417/b ',4417B", "PO4417,4417", "PO No. 17,17", "Order 0012,12", "nr 5,5", "PORT-7,PORT7",
            "PO,PO", "PO-ORDER,ORDER", "０４２,42", "A-007,A7", "000,0", "season 2026 101,SEASON2026101"})
        void readInTheirNormalForm(String text, String normal) {
            assertThat(PoNumber.of(text).normal()).isEqualTo(normal);
        }

        /** Near: one slip (Damerau, 1964: a letter wrong, missing, added, or two swapped) for the same value; or O/0, I/1, S/5, B/8. */
        @ParameterizedTest
        @CsvSource({"PO 4417-B,PO 4417-B,5,SAME", "PO 4417-B,4417/b,5,ALIKE", "44l7-B,4417-B,10,NEAR", "4471-B,4417-B,10,NEAR", "447-B,4417-B,10,NEAR",
            "44177-B,4417-B,10,NEAR", "4471-B,4417-B,9.99,", "4717-B,4471-B,10,", "O0417-8,417-B,3,NEAR", "SI2,512,3,NEAR", "A,,10,", "ZZ9,ZZ91X,10,"})
        void areMetAgainInFourWays(String written, String used, String value, PoNumber.Likeness likeness) {
            assertThat(PoNumber.of(written).likeness(eur("10.00"), PoNumber.of(used == null ? "" : used), eur(new java.math.BigDecimal(value).setScale(2).toPlainString())))
                    .isEqualTo(Optional.ofNullable(likeness));
        }

        @Test
        void withNothingInThemAreNotGiven() {
            assertThat(PoNumber.of(" -/. ").isGiven()).isFalse();
        }
    }
}
