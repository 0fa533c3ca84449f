package app.euthyna.core.check;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.staged;
import static app.euthyna.core.Given.stock;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** When which check has a say, what of the findings carries on, and who decides on them. */
class OccasionsTests {

    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    private static Chain in(OrderState state, OrderLine... lines) {
        return Chain.of(
                order("SO-1", state, lines.length == 0 ? new OrderLine[] {stock(1, "A", "10", "2.00", "0")} : lines));
    }

    private static CheckContext world(String limit) {
        var nothing = Term.nothing(EUR);
        return CheckContext.of(
                        TODAY,
                        new CustomerRules(
                                "C", Optional.of(eur(limit)), PoPolicy.STANDARD, Optional.empty(), Optional.empty()),
                        new CustomerPosition(nothing, nothing, nothing, nothing))
                .withFree(Map.of("A", q(100), "B", q(100)));
    }

    private static List<Finding> submitted(Chain chain, CheckContext world) {
        return Checks.run(chain, world, List.of(), Checks.Occasion.SUBMITTED, Optional.empty());
    }

    @Nested
    class WhichChecksHaveASay {

        private Set<Check> asked(Chain chain, Checks.Occasion occasion, Chain was, Finding... before) {
            return Checks.asked(chain, List.of(before), occasion, Optional.ofNullable(was));
        }

        private Set<Check> allBut(Check... checks) {
            var all = EnumSet.allOf(Check.class);
            all.removeAll(Arrays.asList(checks));
            return all;
        }

        @Test
        void allWhenItIsSubmittedAndNoneWhenItHasEnded() {
            assertThat(asked(in(OrderState.SUBMITTED), Checks.Occasion.SUBMITTED, null))
                    .hasSize(13);
            for (var occasion : Checks.Occasion.values()) {
                assertThat(asked(in(OrderState.CANCELLED), occasion, null)).isEmpty();
            }
        }

        @Test
        void ofAHeldOrderAllButThoseOfItsWritingUnlessItWasWritten() {
            assertThat(asked(in(OrderState.HELD), Checks.Occasion.CHANGED, null))
                    .isEqualTo(allBut());
            assertThat(asked(in(OrderState.HELD), Checks.Occasion.WORLD_CHANGED, null))
                    .isEqualTo(allBut(Check.DATES, Check.UNUSUAL));
            assertThat(asked(in(OrderState.HELD), Checks.Occasion.CUSTOMER_CHANGED, null))
                    .isEqualTo(allBut(Check.DATES, Check.UNUSUAL));
        }

        @Test
        void ofAClearedOrderOnlyWhatIsOpenAndStockWhenTheWorldMoves() {
            var open = Finding.open(Severity.CAUTION, new PoEvidence.PoMissing("C"), TODAY);
            var dates = Finding.open(Severity.CAUTION, new Evidence.WrongDates(TODAY, List.of()), TODAY);
            assertThat(asked(in(OrderState.CLEARED), Checks.Occasion.WORLD_CHANGED, null, open, dates, open))
                    .containsExactlyInAnyOrder(Check.UNRESERVED, Check.MISSING_PO);
            var settled = open.settled();
            assertThat(asked(in(OrderState.CLEARED), Checks.Occasion.WORLD_CHANGED, null, settled))
                    .containsExactly(Check.UNRESERVED);
        }

        @Test
        void ofAClearedOrderWhatWasAgreedWhileGoodsAreStillToLeave() {
            assertThat(asked(in(OrderState.CLEARED), Checks.Occasion.CUSTOMER_CHANGED, null))
                    .containsExactlyInAnyOrder(Check.BLOCKED, Check.CREDIT_LIMIT, Check.OVERDUE, Check.LICENCE);
            var gone = in(OrderState.CLEARED)
                    .after(new Effect.DispatchDeparted(
                            new Dispatch(
                                    "D-1",
                                    "SO-1",
                                    "S",
                                    Dispatch.State.DEPARTED,
                                    TODAY,
                                    List.of(new Dispatch.Line(1, 1, "A", q(10), eur("1.00")))),
                            List.of(),
                            List.of()));
            assertThat(asked(gone, Checks.Occasion.CUSTOMER_CHANGED, null)).isEmpty();
        }

        @Test
        void theLimitAgainOnlyWhereAChangeMakesAClearedOrderWorthMore() {
            var was = in(OrderState.CLEARED);
            assertThat(asked(in(OrderState.CLEARED, stock(1, "A", "11", "2.00", "0")), Checks.Occasion.CHANGED, was))
                    .isEqualTo(allBut());
            assertThat(asked(was, Checks.Occasion.CHANGED, was)).isEqualTo(allBut(Check.CREDIT_LIMIT));
            assertThat(asked(in(OrderState.CLEARED, stock(1, "A", "9", "2.00", "0")), Checks.Occasion.CHANGED, was))
                    .isEqualTo(allBut(Check.CREDIT_LIMIT));
            assertThat(asked(was, Checks.Occasion.CHANGED, null))
                    .as("nobody knows what it was worth")
                    .isEqualTo(allBut());
        }
    }

    @Nested
    class WhatCarriesOn {

        private final CheckContext poor = world("15.00");
        private final List<Finding> found = submitted(in(OrderState.SUBMITTED), poor);

        @Test
        void aFindingKeepsTheDayItWasFound() {
            var tomorrow = CheckContext.of(TODAY.plusDays(1), poor.customer(), poor.position())
                    .withFree(poor.free());
            assertThat(Checks.again(in(OrderState.HELD), tomorrow, found))
                    .extracting(Finding::since)
                    .containsExactly(TODAY);
            var settled = Checks.again(in(OrderState.HELD), world("99.00"), found);
            assertThat(settled).extracting(Finding::state).containsExactly(Finding.State.SETTLED);
            assertThat(Checks.again(in(OrderState.HELD), world("99.00"), settled))
                    .isEqualTo(settled);
            assertThat(Checks.again(in(OrderState.HELD), tomorrow, settled))
                    .as("found again")
                    .extracting(Finding::since)
                    .containsExactly(TODAY.plusDays(1));
        }

        @Test
        void anEndSettlesAll() {
            assertThat(Checks.again(in(OrderState.CANCELLED), poor, found))
                    .extracting(Finding::state)
                    .containsExactly(Finding.State.SETTLED);
        }

        @Test
        void whatIsNotAskedStaysAsItIs() {
            var dates = Finding.open(Severity.CAUTION, new Evidence.WrongDates(TODAY, List.of()), TODAY);
            assertThat(Checks.again(in(OrderState.HELD), world("99.00"), List.of(dates)))
                    .containsExactly(dates);
        }

        @Test
        void findingsStandInTheOrderOfTheChecks() {
            var many = submitted(
                    in(OrderState.SUBMITTED, stock(1, "A", "10", "0.00", "0"), stock(2, "A", "200", "2.00", "0")),
                    poor);
            assertThat(many)
                    .extracting(Finding::check)
                    .containsExactly(Check.CREDIT_LIMIT, Check.ZERO_PRICE, Check.UNRESERVED);
        }

        @Test
        void worseIsWhatOpenedOrGrewSince() {
            var less = submitted(in(OrderState.SUBMITTED), world("19.00"));
            assertThat(Checks.worse(List.of(), found)).isEqualTo(found);
            assertThat(Checks.worse(found, found)).isEmpty();
            assertThat(Checks.worse(less, found)).isEqualTo(found);
            assertThat(Checks.worse(found, less)).isEmpty();
            assertThat(Checks.worse(List.of(found.get(0).settled()), found))
                    .as("it was settled, and is open again")
                    .isEqualTo(found);
            assertThat(Checks.worse(List.of(), List.of(found.get(0).settled()))).isEmpty();
        }
    }

    @Nested
    class Dates {

        private OrderLine wanted(int no, LocalDate on) {
            return stock(no, "A", "1", "2.00", "0").withRequestedOn(on);
        }

        @Test
        void thatNobodyTouchedAreNotAskedAgainUnlessTheyWereWrong() {
            var was = in(OrderState.HELD, wanted(1, TODAY.minusDays(1)), wanted(2, TODAY.minusDays(2)));
            var onlyFirst = Finding.open(
                    Severity.CAUTION,
                    new Evidence.WrongDates(
                            TODAY.minusDays(1),
                            List.of(new Evidence.WrongDates.DatedLine(1, "A", "Item A", TODAY.minusDays(1), TODAY, 0))),
                    TODAY.minusDays(1));
            var now = in(
                    OrderState.HELD,
                    wanted(1, TODAY.minusDays(1)),
                    wanted(2, TODAY.minusDays(2)),
                    wanted(3, TODAY.minusDays(3)));
            assertThat(lines(now, List.of(onlyFirst), Optional.of(was)))
                    .as("the first was wrong before, the third is new")
                    .containsExactly(1, 3);
            assertThat(lines(now, List.of(onlyFirst.settled()), Optional.of(was)))
                    .containsExactly(3);
            assertThat(lines(now, List.of(), Optional.empty())).containsExactly(1, 2, 3);
        }

        private List<Integer> lines(Chain chain, List<Finding> before, Optional<Chain> was) {
            return Checks.run(chain, world("99.00"), before, Checks.Occasion.CHANGED, was).stream()
                    .filter(f -> f.check() == Check.DATES)
                    .flatMap(f -> ((Evidence.WrongDates) f.evidence()).lines().stream())
                    .map(Evidence.WrongDates.DatedLine::line)
                    .toList();
        }
    }

    @Nested
    class Licences {

        private List<String> found(LicenceFact... known) {
            var world = world("99.00").withItems(Map.of("A", ItemFact.PLAIN.withRegulated("chemicals")));
            var licences = new java.util.HashMap<String, LicenceFact>();
            for (var licence : known) {
                licences.put(licence.licenceClass(), licence);
            }
            var with = new CheckContext(
                    world.businessDate(),
                    world.customer(),
                    world.position(),
                    world.poUses(),
                    world.dueInvoices(),
                    world.items(),
                    licences,
                    world.free(),
                    world.quotas(),
                    world.past(),
                    world.authorRole(),
                    world.policy());
            return submitted(
                            in(OrderState.SUBMITTED, stock(1, "A", "1", "2.00", "0"), stock(2, "B", "1", "2.00", "0")),
                            with)
                    .stream()
                    .map(f -> f.evidence().brief())
                    .toList();
        }

        private LicenceFact licence(String of, LicenceFact.Answer answer, LocalDate validTo) {
            return new LicenceFact(of, "L1", answer, validTo, TODAY, 1);
        }

        @Test
        void areValidToTheirLastDay() {
            assertThat(found(licence("chemicals", LicenceFact.Answer.FOUND, TODAY)))
                    .isEmpty();
            assertThat(found(licence("chemicals", LicenceFact.Answer.FOUND, TODAY.minusDays(1))))
                    .containsExactly("licence lapsed");
            assertThat(found(licence("chemicals", LicenceFact.Answer.NO_ANSWER, null)))
                    .containsExactly("register did not answer");
            assertThat(found(licence("weapons", LicenceFact.Answer.FOUND, TODAY)))
                    .as("of another class")
                    .containsExactly("no licence");
        }
    }

    @Nested
    class Stock {

        @Test
        void goesToTheEarliestRequestedDateThenAsTheLinesStand() {
            var chain = in(
                    OrderState.SUBMITTED,
                    stock(1, "A", "6", "1.00", "0").withRequestedOn(TODAY.plusDays(2)),
                    stock(2, "A", "6", "1.00", "0").withRequestedOn(TODAY.plusDays(1)),
                    stock(3, "A", "6", "1.00", "0").withRequestedOn(TODAY.plusDays(2)));
            var found = submitted(chain, world("99.00").withFree(Map.of("A", q(8))));
            var lines = ((Evidence.StockShortage) found.get(0).evidence()).lines();
            assertThat(lines)
                    .extracting(Evidence.StockShortage.ShortLine::line, Evidence.StockShortage.ShortLine::waiting)
                    .containsExactly(
                            org.assertj.core.api.Assertions.tuple(1, q(4)),
                            org.assertj.core.api.Assertions.tuple(3, q(6)));
        }

        @Test
        void thatIsOwedToOthersCoversNothing() {
            var found = submitted(in(OrderState.SUBMITTED), world("99.00").withFree(Map.of("A", q(5).negated())));
            assertThat(found)
                    .singleElement()
                    .satisfies(f -> assertThat(f.evidence().brief()).isEqualTo("short 10 of 10"));
        }
    }

    @Nested
    class Decisions {

        private final Chain held =
                in(OrderState.HELD).after(new Effect.StockReserved(new LineRef("SO-1", 1), "S", "A", q(4)));

        private List<String> declined(Chain chain, Person person, String reason) {
            return FindingDecisions.decline(chain, person, reason).refusals().stream()
                    .map(Refusal::code)
                    .toList();
        }

        @Test
        void decliningReleasesWhatWasReservedAndEndsTheOrder() {
            var after = held.after(
                    FindingDecisions.decline(held, CONTROLLER, "not now").get());
            assertThat(after.order().state()).isEqualTo(OrderState.DECLINED);
            assertThat(after.reserved()).isEmpty();
            assertThat(FindingDecisions.decline(in(OrderState.HELD), CONTROLLER, "not now")
                            .get())
                    .as("nothing is reserved")
                    .hasSize(1);
        }

        @Test
        void isForControllersNotForTheAuthorAndWithAReason() {
            assertThat(declined(held, new Person("other", Role.CLERK), "no")).containsExactly("not-authorised");
            assertThat(declined(held, new Person("clerk", Role.CONTROLLER), "no"))
                    .containsExactly("four-eyes");
            assertThat(declined(held, CONTROLLER, " ")).containsExactly("incomplete");
        }

        @Test
        void onlyWhereNothingIsStagedGoneOrOver() {
            var may = new HashSet<OrderState>();
            for (var state : OrderState.values()) {
                if (declined(in(state), CONTROLLER, "no").isEmpty()) {
                    may.add(state);
                }
            }
            assertThat(may)
                    .containsExactlyInAnyOrder(OrderState.HELD, OrderState.CLEARED, OrderState.AWAITING_APPROVAL);
            var note = staged("D-1", "A", q(4));
            assertThat(declined(held.after(new Effect.DispatchStaged(note)), CONTROLLER, "no"))
                    .containsExactly("staged-goods");
            assertThat(declined(
                            held.after(new Effect.DispatchDeparted(
                                    note.withState(Dispatch.State.DEPARTED), List.of(), List.of())),
                            CONTROLLER,
                            "no"))
                    .containsExactly("departed-goods");
        }

        @Test
        void waivingNamesFindingsThatAreOpenAndSaysWhy() {
            var found = submitted(in(OrderState.SUBMITTED), world("15.00"));
            assertThat(waived(found, Set.of(Check.CREDIT_LIMIT), " ")).containsExactly("incomplete");
            assertThat(waived(found, Set.of(), "known")).containsExactly("incomplete");
            assertThat(waived(found, Set.of(Check.OVERDUE), "known")).containsExactly("not-found");
            var done = FindingDecisions.waive(held, found, Set.of(Check.CREDIT_LIMIT), CONTROLLER, " known ", TODAY)
                    .get();
            assertThat(done.get(0).waiver()).contains(new Finding.Waiver("controller", TODAY, "known"));
            assertThat(waived(done, Set.of(Check.CREDIT_LIMIT), "again"))
                    .as("it is waived already")
                    .containsExactly("not-found");
        }

        private List<String> waived(List<Finding> found, Set<Check> named, String reason) {
            return FindingDecisions.waive(held, found, named, CONTROLLER, reason, TODAY).refusals().stream()
                    .map(Refusal::code)
                    .toList();
        }
    }

    @Test
    void theStateFollowsFromTheFindingsAndTheDocuments() {
        var stop = submitted(in(OrderState.SUBMITTED), world("15.00"));
        assertThat(Checks.stateOf(in(OrderState.SUBMITTED), stop)).isEqualTo(OrderState.HELD);
        assertThat(Checks.stateOf(in(OrderState.SUBMITTED), List.of())).isEqualTo(OrderState.CLEARED);
        assertThat(Checks.stateOf(in(OrderState.DECLINED), List.of())).isEqualTo(OrderState.DECLINED);
        assertThat(Checks.stateOf(in(OrderState.CANCELLED), stop)).isEqualTo(OrderState.CANCELLED);
        assertThat(Checks.stateOf(in(OrderState.DRAFT), stop))
                .as("nobody submitted it")
                .isEqualTo(OrderState.DRAFT);
    }

    /** Common practice: a customer who asks for a PO number on every bill does not pay one without. */
    @Test
    void aMissingPoIsFoundForWhoRequiresOne() {
        var requires = new PoPolicy(
                true, Severity.STOP, Severity.STOP, Severity.CAUTION, Optional.empty(), PoPolicy.Barred.HOLD);
        var world = world("99.00")
                .withCustomer(new CustomerRules("C", Optional.empty(), requires, Optional.empty(), Optional.empty()));
        assertThat(submitted(in(OrderState.SUBMITTED), world)).isEmpty();
        var without = Chain.of(
                order("SO-1", OrderKind.STANDARD, OrderState.SUBMITTED, " ", stock(1, "A", "10", "2.00", "0")));
        assertThat(submitted(without, world)).extracting(Finding::check).containsExactly(Check.MISSING_PO);
    }

    @Nested
    class Remarks {

        private final OrderLine remark = app.euthyna.core.Given.line(2, LineKind.TEXT, "", "1", "0.00", "0");

        /** A text has no price, no floor and no date: nothing is found on it. */
        @Test
        void areLookedAtByNoCheck() {
            var world = world("99.00")
                    .withItems(Map.of(
                            "", ItemFact.PLAIN.withFloor(new BigDecimal("9.00")).withLeadDays(9)))
                    .withPolicy(new CheckPolicy(
                            Map.of(),
                            new CheckFigures(
                                    Optional.empty(),
                                    Optional.of(BigDecimal.TEN),
                                    Map.of(),
                                    CheckFigures.USUAL_SCORE)));
            assertThat(submitted(in(OrderState.SUBMITTED, stock(1, "A", "1", "2.00", "0"), remark), world))
                    .isEmpty();
        }

        /** Only a stop holds: what asks for care lets an order through. */
        @Test
        void whatAsksForCareHoldsNothing() {
            var care = Finding.open(Severity.CAUTION, new PoEvidence.PoMissing("C"), TODAY);
            assertThat(care.holds()).isFalse();
            assertThat(Checks.stateOf(in(OrderState.SUBMITTED), List.of(care))).isEqualTo(OrderState.CLEARED);
        }
    }

    @Nested
    class PoNumbersUsedBefore {

        private List<Finding> met(PoPolicy policy, PoUse... uses) {
            return submitted(
                    in(OrderState.SUBMITTED),
                    world("99.00")
                            .withCustomer(new CustomerRules(
                                    "C", Optional.empty(), policy, Optional.empty(), Optional.empty()))
                            .withPoUses(List.of(uses)));
        }

        private PoUse used(String order, String po, String left) {
            return new PoUse(order, po, TODAY, eur("20.00"), eur(left), List.of(), PoUse.Place.OPEN_ORDER, false);
        }

        @Test
        void weighAsTheHeaviestAndStandTheClosestFirst() {
            var found = met(
                    PoPolicy.STANDARD,
                    used("SO-9", "P-2", "1.00"),
                    used("SO-8", "p 1", "1.00"),
                    used("SO-7", "P-1", "1.00"));
            assertThat(found).hasSize(1);
            assertThat(found.get(0).severity()).isEqualTo(Severity.STOP);
            assertThat(((PoEvidence.PoMet) found.get(0).evidence()).matches())
                    .extracting(m -> m.use().order())
                    .containsExactly("SO-7", "SO-8", "SO-9");
            assertThat(met(PoPolicy.STANDARD, used("SO-9", "P-2", "1.00"))
                            .get(0)
                            .severity())
                    .as("one slip away, for the same value")
                    .isEqualTo(Severity.CAUTION);
        }

        /** Orders under one PO may come to its ceiling; what was cancelled of them does not count. */
        @Test
        void countTogetherToTheirCeiling() {
            var ceiling = new PoPolicy(
                    false,
                    Severity.STOP,
                    Severity.STOP,
                    Severity.CAUTION,
                    Optional.of(eur("50.00")),
                    PoPolicy.Barred.HOLD);
            assertThat(met(ceiling, used("SO-8", "p 1", "30.00"), used("SO-9", "P-2", "99.00")))
                    .as("this order is 20.00, another PO does not count")
                    .isEmpty();
            assertThat(met(ceiling, used("SO-8", "p 1", "30.01")))
                    .extracting(f -> f.evidence().brief())
                    .containsExactly("PO ceiling exceeded");
        }
    }

    @Test
    void whatIsLeftOfAQuotaIsNeverLessThanNothing() {
        var quota = new Quota("A", Quota.Scope.REGION, "N", TODAY, TODAY, q(10), q(4));
        assertThat(quota.left()).isEqualTo(q(6));
        assertThat(new Quota("A", Quota.Scope.REGION, "N", TODAY, TODAY, q(10), q(14)).left())
                .isEqualTo(q(0));
        assertThat(CustomerPosition.nothing(EUR).exposure()).isEqualTo(eur("0.00"));
    }

    @Test
    void codesOfChecksReadBack() {
        for (var check : Check.values()) {
            assertThat(Check.of(check.code())).contains(check);
            assertThat(check.title()).isNotBlank();
        }
        assertThat(Check.of("full-moon")).isEmpty();
    }
}
