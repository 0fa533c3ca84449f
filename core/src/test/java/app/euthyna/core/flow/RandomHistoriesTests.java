package app.euthyna.core.flow;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.order;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Rounds;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.shared.Money;
import app.euthyna.core.unwind.Choices;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Planner;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/**
 * Random lives of two orders of a customer, decided and folded by the core alone: goods in, counted, reserved,
 * transferred, staged, sent off; billed, ahead too and together; deposits, payments, credit, refunds and payments that
 * bounce. After every step the ledger must be what the documents say, and every refusal must leave all as it was.
 */
class RandomHistoriesTests {

    private static final int HISTORIES = 2_000;

    @Test
    void booksFollowFromTheDocumentsAfterEveryStep() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("random histories from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        var happened = new TreeMap<String, Integer>();
        for (int history = 0; history < Rounds.of(HISTORIES); history++) {
            new RandomHistory(new Random(seed + history), "seed " + seed + ", history " + history, happened).live();
        }
        assertThat(happened)
                .as("every kind of thing has happened, the rarest about a dozen times")
                .hasSizeGreaterThanOrEqualTo(Rounds.areAll() ? 32 : 22);
    }

    /**
     * Two histories live alike; in one of them an invoice is posted that the other never sees. Goods come and go in
     * both, then the invoice is taken back: the books and every order line must be those of the history without it, but
     * for the money that came in for it.
     */
    @Test
    void anInvoiceTakenBackIsAsIfItHadNotBeen() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("invoices taken back from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        int taken = 0;
        for (int history = 0; history < Rounds.of(1_500); history++) {
            var name = "seed " + seed + ", history " + history;
            var with = new RandomHistory(new Random(seed + history), name, new TreeMap<>());
            var without = new RandomHistory(new Random(seed + history), name, new TreeMap<>());
            for (int step = 0; step < 20; step++) {
                with.step();
                without.step();
            }
            List.of(with, without).forEach(RandomHistory::applyAllDeposits);
            var billed = with.bill();
            if (billed.isEmpty()) {
                continue;
            }
            taken++;
            takenBackOf(history, seed, with, without, billed.get().invoice(), name);
        }
        assertThat(taken).isGreaterThan(Rounds.areAll() ? 300 : 0);
    }

    private static void takenBackOf(
            int history, long seed, RandomHistory with, RandomHistory without, Invoice invoice, String name) {
        var paid = history % 3 == 0 ? with.payInFull(invoice) : eur("0.00");
        for (var one : List.of(with, without)) {
            one.random = new Random(seed - history);
            for (int step = 0; step < 8; step++) {
                one.goods();
            }
        }
        var before = with.balances();
        var plan = Planner.plan(
                        with.unwindContext(),
                        with.unwindRequest(new Intent.TakeBackInvoice(invoice.number(), false), Choices.NONE))
                .get();
        assertThat(plan.now()).as("all of it is possible now").isEqualTo(plan.steps());
        plan.effects().forEach(with::happen);
        with.applyAllDeposits();
        with.check();
        var expected = without.balances();
        expected.merge(AccountRole.BANK, paid, Money::plus);
        expected.merge(AccountRole.CUSTOMER_CREDIT, paid.negated(), Money::plus);
        assertThat(with.balances())
                .as("%s: %s taken back after %s", name, invoice, with.told)
                .isEqualTo(expected);
        assertThat(with.flows()).as("%s: order lines after %s", name, with.told).isEqualTo(without.flows());
        assertThat(Planner.plan(
                                with.unwindContext(),
                                with.unwindRequest(new Intent.TakeBackInvoice(invoice.number(), true), Choices.NONE))
                        .refusals())
                .extracting(r -> r.code())
                .as("nothing is taken back twice")
                .containsExactly("already-reversed");
        with.billAgain(invoice);
        assertThat(with.balances())
                .as("%s: rebilled after %s", name, with.told)
                .usingRecursiveComparison()
                .ignoringFields("BANK", "RECEIVABLES", "CUSTOMER_CREDIT", "DEPOSITS")
                .isEqualTo(before);
    }

    /** A dispatch that is taken back and sent off again leaves what it had left; with its invoice, too. */
    @Test
    void whatIsTakenBackAndDoneAgainLeavesTheSame() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("done again from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        int taken = 0;
        for (int history = 0; history < Rounds.of(1_500); history++) {
            var one = new RandomHistory(
                    new Random(seed + history), "seed " + seed + ", history " + history, new TreeMap<>());
            for (int step = 0; step < 20; step++) {
                one.step();
            }
            var chain = one.any(c -> !c.staged().isEmpty());
            if (chain.staged().isEmpty()) {
                continue;
            }
            var untouched = one.balances();
            var order = chain.order().number();
            var left = Dispatching.depart(chain, chain.staged().get(0), Map.of("A", one.shelf), TODAY)
                    .get();
            one.happen(left);
            var gone = one.balances();
            var flows = one.flows();
            var plan = Planner.plan(
                    one.unwindContext(),
                    one.unwindRequest(
                            new Intent.TakeBackDispatch(left.dispatch().number()), Choices.NONE));
            assertThat(plan.isRefused()).as("%s: %s", one.name, plan.refusals()).isFalse();
            plan.get().effects().forEach(one::happen);
            one.check();
            assertThat(one.balances()).as("%s: as before it left", one.name).isEqualTo(untouched);
            taken++;
            var picks = left.dispatch().lines().stream()
                    .map(l -> new Dispatching.Pick(l.orderLine(), l.quantity()))
                    .toList();
            var again = Dispatching.stage(one.chains.get(order), one.next("D-"), TODAY, picks)
                    .get();
            one.happen(again);
            one.happen(Dispatching.depart(one.chains.get(order), again.dispatch(), Map.of("A", one.shelf), TODAY)
                    .get());
            one.check();
            assertThat(one.balances()).as("%s: sent off again", one.name).isEqualTo(gone);
            assertThat(one.flows()).as("%s: sent off again", one.name).isEqualTo(flows);
        }
        assertThat(taken).isGreaterThan(Rounds.areAll() ? 200 : 0);
    }
}
