package app.euthyna.core.goods;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.codes;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import app.euthyna.core.Rounds;
import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.goods.Dispatching.Pick;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Shelves, what is held on them for whom, and what is picked from them. */
class StoresTests {

    private static Chain cleared(String number, OrderLine... lines) {
        return Chain.of(order(number, OrderState.CLEARED, lines));
    }

    private static Effect.StockReserved reserved(String order, int line, long quantity) {
        return new Effect.StockReserved(new LineRef(order, line), "S", "A", q(quantity));
    }

    /** IAS 2.27, weighted average cost: what leaves takes its part of the value, what empties the shelf all of it. */
    @Nested
    class AShelf {

        @Test
        void costsWhatItsShareCosts() {
            var shelf = new Shelf("S", "A", q(3), q(0), eur("10.00"));
            assertThat(shelf.cost(q(1))).isEqualTo(eur("3.33"));
            assertThat(shelf.cost(q(2))).isEqualTo(eur("6.67"));
            assertThat(shelf.cost(q(3))).isEqualTo(eur("10.00"));
            assertThat(shelf.cost(new Quantity(new BigDecimal("1.5")))).isEqualTo(eur("5.00"));
            assertThat(shelf.valueAt(q(3), new BigDecimal("1.335")))
                    .as("half up")
                    .isEqualTo(eur("4.01"));
        }

        @Test
        void isNeverEmptyAndWorthSomethingNorHoldsMoreThanItHas() {
            assertThatIllegalArgumentException().isThrownBy(() -> new Shelf("S", "A", q(0), q(0), eur("0.01")));
            assertThatIllegalArgumentException().isThrownBy(() -> new Shelf("S", "A", q(1), q(2), eur("0.00")));
            assertThatIllegalArgumentException()
                    .isThrownBy(() -> new Shelf("S", "A", q(1).negated(), q(0), eur("0.00")));
            assertThatIllegalArgumentException()
                    .isThrownBy(() -> new Shelf("S", "A", q(1), q(1).negated(), eur("0.00")));
            assertThatIllegalArgumentException().isThrownBy(() -> new Shelf("S", "A", q(1), q(0), eur("-0.01")));
        }

        @Test
        void movesByWhatIsDoneWithIt() {
            var shelf = new Shelf("S", "A", q(10), q(0), eur("40.00"));
            assertThat(shelf.reserve(q(4)).free()).isEqualTo(q(6));
            assertThat(shelf.reserve(q(4)).release(q(1)).reserved()).isEqualTo(q(3));
            assertThat(shelf.reserve(q(4)).issue(q(4), eur("16.00")))
                    .isEqualTo(new Shelf("S", "A", q(6), q(0), eur("24.00")));
            assertThat(shelf.receive(q(5), eur("30.00"))).isEqualTo(new Shelf("S", "A", q(15), q(0), eur("70.00")));
            assertThat(shelf.reserve(q(2)).correct(q(3).negated(), eur("-12.00")))
                    .isEqualTo(new Shelf("S", "A", q(7), q(2), eur("28.00")));
        }

        /** However it leaves, in whatever pieces: the costs come to the value, and no piece costs less than nothing. */
        @Test
        void leavesInPiecesThatComeToItsValue() {
            var seed = Long.getLong("seed", System.nanoTime());
            System.out.println("shelves from seed " + seed);
            var random = new Random(seed);
            for (int round = 0; round < Rounds.of(500); round++) {
                var had = 1 + random.nextInt(60);
                var worth = Money.rounded(BigDecimal.valueOf(random.nextInt(9_999), 2), EUR);
                var shelf = new Shelf("S", "A", q(had), q(had), worth);
                var gone = eur("0.00");
                for (int left = had; left > 0; ) {
                    var piece = 1 + random.nextInt(left);
                    var cost = shelf.cost(q(piece));
                    assertThat(cost.isNegative()).isFalse();
                    shelf = shelf.issue(q(piece), cost);
                    gone = gone.plus(cost);
                    left -= piece;
                }
                assertThat(gone).as("seed %d, round %d", seed, round).isEqualTo(worth);
                assertThat(shelf.value()).isEqualTo(eur("0.00"));
            }
        }
    }

    @Nested
    class Staging {

        private final Chain chain = cleared("SO-1", stock(1, "A", "10", "2.00", "0"), stock(2, "A", "5", "2.00", "0"))
                .after(reserved("SO-1", 1, 6))
                .after(reserved("SO-1", 2, 5));

        private String asked(Pick... picks) {
            return codes(Dispatching.stage(chain, "D-1", TODAY, List.of(picks)));
        }

        @Test
        void takesAllThatIsReservedWhereNothingIsNamed() {
            var note = Dispatching.stage(chain, "D-1", TODAY, List.of()).get().dispatch();
            assertThat(note.lines()).extracting(Dispatch.Line::quantity).containsExactly(q(6), q(5));
            assertThat(note.lines()).extracting(Dispatch.Line::no).containsExactly(1, 2);
            assertThat(note.site()).isEqualTo("S");
        }

        @Test
        void noMoreThanIsReservedNorThanIsOpen() {
            assertThat(asked(new Pick(1, q(6)))).isEmpty();
            assertThat(asked(new Pick(1, q(7)))).isEqualTo("not-reserved");
            assertThat(asked(new Pick(1, q(11)))).isEqualTo("more-than-open");
            assertThat(asked(new Pick(1, q(4)), new Pick(1, q(3))))
                    .as("asked for twice")
                    .isEqualTo("not-reserved");
            assertThat(asked(new Pick(7, q(1)), new Pick(1, q(0)))).isEqualTo("not-found,incomplete");
        }

        @Test
        void nothingOfAnOrderThatIsHeldOrHasNothing() {
            var held = Chain.of(order("SO-1", OrderState.HELD, stock(1, "A", "10", "2.00", "0")));
            assertThat(codes(Dispatching.stage(held, "D-1", TODAY, List.of()))).isEqualTo("not-cleared");
            assertThat(codes(Dispatching.stage(
                            cleared("SO-1", stock(1, "A", "10", "2.00", "0")), "D-1", TODAY, List.of())))
                    .isEqualTo("not-reserved");
            var all = chain.after(
                    Dispatching.stage(chain, "D-1", TODAY, List.of()).get());
            assertThat(codes(Dispatching.stage(all, "D-2", TODAY, List.of())))
                    .as("four of the first line still wait")
                    .isEqualTo("not-reserved");
        }

        @Test
        void isTakenBackOnce() {
            var note = Dispatching.stage(chain, "D-1", TODAY, List.of()).get().dispatch();
            var voided = Dispatching.voidStaged(note).get().dispatch();
            assertThat(voided.state()).isEqualTo(Dispatch.State.VOIDED);
            assertThat(codes(Dispatching.voidStaged(voided))).isEqualTo("already-reversed");
            assertThat(codes(Dispatching.voidStaged(note.withState(Dispatch.State.DEPARTED))))
                    .isEqualTo("departed-goods");
        }
    }

    @Nested
    class Transfers {

        private final Chain giver =
                cleared("SO-1", stock(1, "A", "10", "2.00", "0")).after(reserved("SO-1", 1, 6));
        private final Chain taker = cleared("SO-2", stock(1, "A", "4", "2.00", "0"), stock(2, "B", "4", "2.00", "0"));

        private String codesOf(Chain to, int line, long quantity, String reason) {
            return codes(Reserving.transfer(giver, 1, to, line, q(quantity), reason));
        }

        @Test
        void handWhatIsHeldToWhoWaitsForTheSameGoods() {
            var moved = Reserving.transfer(giver, 1, taker, 1, q(4), "promised").get();
            assertThat(giver.after(moved).flow(1).reserved()).isEqualTo(q(2));
            assertThat(taker.after(moved).flow(1).reserved()).isEqualTo(q(4));
            assertThat(moved.orders()).containsExactlyInAnyOrder("SO-1", "SO-2");
        }

        @Test
        void noMoreThanIsHeldNorThanIsWaitedFor() {
            assertThat(codesOf(taker, 1, 5, "promised")).isEqualTo("more-than-open");
            var more = cleared("SO-2", stock(1, "A", "40", "2.00", "0"));
            assertThat(codesOf(more, 1, 6, "promised")).isEmpty();
            assertThat(codesOf(more, 1, 7, "promised")).isEqualTo("not-reserved");
        }

        @Test
        void toAnOpenOrderOfTheSameGoodsWithAReason() {
            assertThat(codesOf(taker, 2, 1, "promised")).isEqualTo("not-reserved");
            assertThat(codesOf(taker, 9, 0, " ")).isEqualTo("not-found,incomplete,incomplete");
            var held = Chain.of(order("SO-2", OrderState.HELD, stock(1, "A", "4", "2.00", "0")));
            assertThat(codesOf(held, 1, 1, "promised")).isEqualTo("not-cleared");
        }
    }

    @Nested
    class Queues {

        private Claim claim(String order, int line, long waiting, int inDays, long clearing) {
            return new Claim(new LineRef(order, line), q(waiting), TODAY.plusDays(inDays), clearing);
        }

        /** Domain reference, section 7: by requested date, then when it was cleared, then by line. */
        @Test
        void servesTheEarliestDateThenTheFirstClearedThenTheLine() {
            var shelf = new Shelf("S", "A", q(12), q(2), eur("48.00"));
            assertThat(Reserving.offer(
                            shelf,
                            List.of(
                                    claim("SO-4", 1, 9, 2, 1),
                                    claim("SO-3", 2, 2, 1, 7),
                                    claim("SO-3", 1, 2, 1, 7),
                                    claim("SO-2", 1, 2, 1, 5),
                                    claim("SO-1", 1, 0, 0, 1))))
                    .containsExactly(
                            reserved("SO-2", 1, 2),
                            reserved("SO-3", 1, 2),
                            reserved("SO-3", 2, 2),
                            reserved("SO-4", 1, 4));
            assertThat(Reserving.offer(shelf.reserve(q(10)), List.of(claim("SO-4", 1, 9, 2, 1))))
                    .as("nothing is free")
                    .isEmpty();
        }

        @Test
        void whatDoesNotWaitIsGivenUpWhileItsOrderIsCleared() {
            var line = stock(1, "A", "10", "2.00", "0");
            var drops = new OrderLine(
                    1,
                    line.kind(),
                    "A",
                    line.description(),
                    line.quantity(),
                    line.price(),
                    line.vat(),
                    TODAY,
                    "",
                    Shortage.DROP);
            var waits = stock(2, "A", "10", "2.00", "0");
            var chain = cleared("SO-1", drops, waits).after(reserved("SO-1", 1, 6));
            assertThat(Reserving.dropped(chain, () -> "CA-1", TODAY))
                    .hasValueSatisfying(
                            cancelled -> assertThat(cancelled.lines()).containsExactly(new Cancellation.Line(1, q(4))));
            assertThat(Reserving.dropped(chain.after(reserved("SO-1", 1, 4)), this::none, TODAY))
                    .isEmpty();
            var held = Chain.of(order("SO-1", OrderState.HELD, drops));
            assertThat(Reserving.dropped(held, this::none, TODAY)).isEmpty();
        }

        private String none() {
            throw new AssertionError("a number was asked for that no cancellation has");
        }
    }

    @Nested
    class Counts {

        private final Shelf shelf = new Shelf("S", "A", q(10), q(7), eur("40.00"));
        private final List<StockCount.Held> held = List.of(
                new StockCount.Held(new LineRef("SO-1", 1), q(3), new Claim(new LineRef("SO-1", 1), q(0), TODAY, 1)),
                new StockCount.Held(new LineRef("SO-2", 1), q(2), new Claim(new LineRef("SO-2", 1), q(0), TODAY, 2)));

        private Decision<List<Effect>> count(long counted) {
            return StockCount.count("CT-1", shelf, q(counted), Optional.empty(), held, "counted");
        }

        private Effect.StockCounted counted(long by, String value) {
            return new Effect.StockCounted("CT-1", "S", "A", by < 0 ? q(-by).negated() : q(by), eur(value));
        }

        private Effect.ReservationReleased released(String order, long quantity) {
            return new Effect.ReservationReleased(new LineRef(order, 1), "S", "A", q(quantity));
        }

        @Test
        void atTheMovingAverageWhateverIsFoundOrMissing() {
            assertThat(count(12).get()).containsExactly(counted(2, "8.00"));
            assertThat(count(8).get()).containsExactly(counted(-2, "-8.00"));
        }

        /** Two of the seven are staged; of the others the last in the queue gives up first. */
        @Test
        void theLastInTheQueueGivesUpFirstAndWhatIsStagedStays() {
            assertThat(count(7).get()).as("enough for all").hasSize(1);
            assertThat(count(6).get()).containsExactly(released("SO-2", 1), counted(-4, "-16.00"));
            assertThat(count(4).get()).containsExactly(released("SO-2", 2), released("SO-1", 1), counted(-6, "-24.00"));
            assertThat(count(2).get()).containsExactly(released("SO-2", 2), released("SO-1", 3), counted(-8, "-32.00"));
            assertThat(codes(count(1))).isEqualTo("staged-goods");
        }

        @Test
        void whatWasEmptyNeedsACost() {
            var empty = new Shelf("S", "A", q(0), q(0), eur("0.00"));
            assertThat(codes(StockCount.count("CT-1", empty, q(3), Optional.empty(), List.of(), "found")))
                    .isEqualTo("incomplete");
            assertThat(StockCount.count("CT-1", empty, q(3), Optional.of(new BigDecimal("1.3350")), List.of(), "found")
                            .get())
                    .containsExactly(counted(3, "4.01"));
            for (var wrong : List.of("-0.01", "1.00001")) {
                assertThat(codes(StockCount.count(
                                "CT-1", empty, q(3), Optional.of(new BigDecimal(wrong)), List.of(), "found")))
                        .as(wrong)
                        .isEqualTo("incomplete");
            }
        }

        @Test
        void saysSomethingNewWithAReason() {
            assertThat(codes(count(10))).as("the books say so").isEqualTo("incomplete");
            assertThat(codes(StockCount.count("CT-1", shelf, q(1).negated(), Optional.empty(), held, "counted")))
                    .isEqualTo("incomplete");
            assertThat(codes(StockCount.count("CT-1", shelf, q(9), Optional.empty(), held, " ")))
                    .isEqualTo("incomplete");
        }
    }
}
