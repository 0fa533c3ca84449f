package app.euthyna.core.returns;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;
import static app.euthyna.core.Sale.ofDispatch;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalStateException;
import static org.assertj.core.api.Assertions.tuple;

import app.euthyna.core.Rounds;
import app.euthyna.core.Sale;
import app.euthyna.core.billing.Billing;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Ten ordered; what may come back of them, and how the company stands with what comes. */
class ReturnableTests {

    private static final LineRef LEFT = new LineRef("D-1", 1);

    private final Sale sale = new Sale(stock(1, "A", "10", "10.00", "21"));

    private Returnable now() {
        return new Returnable(sale.chain());
    }

    private static Return.Line from(LineRef dispatchLine, Optional<LineRef> invoiceLine) {
        return new Return.Line(1, new LineRef("SO-1", 1), dispatchLine, invoiceLine, "A", "S", q(10), List.of());
    }

    private static Money cost(List<Returnable.Standing> standings) {
        return standings.stream().map(one -> one.cost().apply(one.quantity())).reduce(eur("0.00"), Money::plus);
    }

    @Nested
    class WhatMayComeBack {

        @Test
        void onlyWhatHasLeft() {
            assertThat(now().of(LEFT)).isEqualTo(q(0));
            assertThat(now().departed(LEFT)).isEmpty();
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            assertThat(now().of(LEFT)).isEqualTo(q(6));
            assertThat(now().of(new LineRef("D-1", 2)))
                    .as("there is no second line")
                    .isEqualTo(q(0));
            assertThat(now().departed(LEFT))
                    .hasValueSatisfying(line -> assertThat(line.item()).isEqualTo("A"));
        }

        @Test
        void lessWhatIsAllowedAlreadyWhetherItCameOrNot() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var goods = sale.allowed("faulty", ofDispatch("D-1", 1, q(4)));
            assertThat(now().of(LEFT)).isEqualTo(q(2));
            sale.receive(goods, new Returning.Came(1, q(3)));
            assertThat(now().of(LEFT)).as("one is still expected").isEqualTo(q(2));
            sale.happen(
                    Returning.withdraw(sale.now(goods), sale.chain().credits()).get());
            assertThat(now().of(LEFT)).as("that one is expected no more").isEqualTo(q(3));
        }

        @Test
        void fromAnInvoiceOnlyWhatItBilledOfTheDispatch() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var first = sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            var line = new LineRef(first.number(), 1);
            assertThat(now().of(line, LEFT)).isEqualTo(q(2));
            assertThat(now().of(new LineRef("another", 1), LEFT)).isEqualTo(q(0));
            sale.allowed("faulty", ofDispatch("D-1", 1, q(5)));
            assertThat(now().of(line, LEFT))
                    .as("five are allowed from the dispatch, so one is left of either")
                    .isEqualTo(q(1));
        }
    }

    @Nested
    class HowTheyStood {

        private Quantity standing(List<Returnable.Standing> standings, Return.Standing kind) {
            return Quantity.sum(standings.stream()
                    .filter(one -> one.standing() == kind)
                    .map(Returnable.Standing::quantity)
                    .toList());
        }

        @Test
        void whatWasNotBilledComesFirst() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(4)));
            var found = now().standings("RT-1", from(LEFT, Optional.empty()), q(5));
            assertThat(standing(found, Return.Standing.UNBILLED)).isEqualTo(q(2));
            assertThat(standing(found, Return.Standing.BILLED)).isEqualTo(q(3));
            assertThat(found.get(0).standing()).isEqualTo(Return.Standing.UNBILLED);
        }

        @Test
        void theOldestInvoiceBeforeTheNext() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            var first = sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            var second = sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(4)));
            assertThat(now().standings("RT-1", from(LEFT, Optional.empty()), q(3)))
                    .extracting(one -> one.invoiceLine().orElseThrow().number(), Returnable.Standing::quantity)
                    .containsExactly(tuple(first.number(), q(2)), tuple(second.number(), q(1)));
        }

        @Test
        void theInvoiceThatTheReturnWasAuthorisedFromBeforeAll() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            var second = sale.bill(new Billing.Share(new LineRef("SO-1", 1), q(2)));
            var found = now().standings("RT-1", from(LEFT, Optional.of(new LineRef(second.number(), 1))), q(3));
            assertThat(found.get(0).invoiceLine()).contains(new LineRef(second.number(), 1));
            assertThat(found.get(0).quantity()).isEqualTo(q(2));
            assertThat(found.get(1).standing()).as("then what was not billed").isEqualTo(Return.Standing.UNBILLED);
        }

        @Test
        void moreThanThereIsHasNoStanding() {
            sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
            assertThatIllegalStateException()
                    .isThrownBy(() -> now().standings("RT-1", from(LEFT, Optional.empty()), q(7)))
                    .withMessageContaining("have no standing");
        }
    }

    /** Whatever was billed and came back before: all that left is found, each once, and costs what it cost. */
    @Test
    void allThatLeftStandsOnceAndCostsWhatItCost() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("standings from seed " + seed);
        for (int round = 0; round < Rounds.of(300); round++) {
            var random = new Random(seed + round);
            var one = new Sale(stock(1, "A", "20", "3.33", "21"));
            var left = 1 + random.nextInt(20);
            var cost = Money.rounded(BigDecimal.valueOf(random.nextInt(5000), 2), EUR);
            one.leave("D-1", Map.of(1, q(left)), Map.of(1, cost));
            var toBill = left;
            while (toBill > 0 && random.nextBoolean()) {
                var share = 1 + random.nextInt(toBill);
                one.bill(new Billing.Share(new LineRef("SO-1", 1), q(share)));
                toBill -= share;
            }
            var name = "seed %d, round %d: %d left, %d not billed".formatted(seed, round, left, toBill);
            var pieces = new ArrayList<Money>();
            var back = 0;
            while (back < left) {
                var next = 1 + random.nextInt(left - back);
                var goods = one.allowed("faulty", ofDispatch("D-1", 1, q(next)));
                var standings = new Returnable(one.chain()).standings(goods.number(), goods.line(1), q(next));
                assertThat(Quantity.sum(standings.stream()
                                .map(Returnable.Standing::quantity)
                                .toList()))
                        .as(name)
                        .isEqualTo(q(next));
                pieces.add(cost(standings));
                one.receive(goods, new Returning.Came(1, q(next)));
                back += next;
                assertThat(new Returnable(one.chain()).of(LEFT)).as(name).isEqualTo(q(left - back));
            }
            assertThat(pieces.stream().reduce(eur("0.00"), Money::plus))
                    .as(name)
                    .isEqualTo(cost);
        }
    }
}
