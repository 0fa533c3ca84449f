package app.euthyna.core.flow;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Posting;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Planner;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Random lives of an order, decided and folded by the core alone; after every step the books must follow from the documents. */
class RandomHistoriesTests {

    private static final int HISTORIES = 1_500;
    private static final int STEPS = 40;
    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    @Test
    void booksFollowFromTheDocumentsAfterEveryStep() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("random histories from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        for (int history = 0; history < HISTORIES; history++) {
            new History(new Random(seed + history), "seed " + seed + ", history " + history).live();
        }
    }

    private static final class History {

        private final Random random;
        private final String name;
        private final Map<AccountRole, Money> ledger = new HashMap<>();
        private final Postings postings = new Postings(item -> "", customer -> "");
        private final List<String> told = new ArrayList<>();
        private Chain chain;
        private Shelf shelf;
        private int number;

        private History(Random random, String name) {
            this.random = random;
            this.name = name;
            var lines = new ArrayList<OrderLine>();
            for (int no = 1; no <= 1 + random.nextInt(3); no++) {
                var kind = random.nextInt(4) == 0 ? LineKind.SERVICE : LineKind.STOCK;
                lines.add(line(no, kind, "A", String.valueOf(1 + random.nextInt(12)), BigDecimal.valueOf(random.nextInt(99_999), 4).toPlainString(),
                        List.of("0", "9", "21").get(random.nextInt(3))));
            }
            chain = Chain.of(order("SO-1", OrderState.CLEARED, lines.toArray(OrderLine[]::new)));
            shelf = new Shelf("S", "A", Quantity.ZERO, Quantity.ZERO, eur("0.00"));
        }

        private void live() {
            for (int step = 0; step < STEPS; step++) {
                switch (random.nextInt(7)) {
                    case 0 -> receive();
                    case 1 -> reserve();
                    case 2 -> stage();
                    case 3 -> voidOne();
                    case 4 -> depart();
                    case 5 -> bill();
                    default -> cancelSome();
                }
                check();
            }
        }

        private void receive() {
            var quantity = Quantity.of(1 + random.nextInt(9));
            var value = shelf.valueAt(quantity, BigDecimal.valueOf(random.nextInt(90_000), 4));
            shelf = shelf.receive(quantity, value);
            happen(new Effect.StockReceived("SR", "S", "A", quantity, value));
        }

        private void reserve() {
            for (var flow : chain.flows()) {
                var given = flow.unreserved().min(shelf.free());
                if (flow.line().kind().isShipped() && given.isPositive()) {
                    shelf = shelf.reserve(given);
                    happen(new Effect.Reserved(new LineRef("SO-1", flow.line().no()), "S", "A", given));
                }
            }
        }

        private void stage() {
            var decision = Dispatching.stage(chain, "D-" + ++number, TODAY, List.of());
            decision.result().ifPresent(this::happen);
        }

        private void voidOne() {
            chain.staged().stream().findFirst().ifPresent(d -> happen(Dispatching.voidStaged(d).get()));
        }

        private void depart() {
            chain.staged().stream().findFirst().ifPresent(dispatch -> {
                var departed = Dispatching.depart(chain, dispatch, Map.of("A", shelf), TODAY).get();
                for (var line : departed.dispatch().lines()) {
                    shelf = shelf.issue(line.quantity(), line.cost());
                }
                happen(departed);
            });
        }

        /** Bills one unit of something, or all that can be billed. */
        private void bill() {
            var shares = new ArrayList<Billing.Share>();
            if (random.nextBoolean()) {
                chain.flows().stream().filter(flow -> flow.toBill().isPositive()).findFirst()
                        .ifPresent(flow -> shares.add(new Billing.Share(new LineRef("SO-1", flow.line().no()), Quantity.of(1))));
            }
            Billing.bill("C", List.of(chain), shares, "2026-" + ++number, TODAY, 30).result().ifPresent(this::happen);
        }

        private void cancelSome() {
            if (random.nextInt(6) > 0) {
                return;
            }
            var plan = Planner.plan(chain, new Intent.CancelRest(List.of()), CONTROLLER, "why", TODAY, "CA-" + ++number);
            plan.result().ifPresent(p -> p.effects().forEach(effect -> {
                if (effect instanceof Effect.Released released) {
                    shelf = shelf.release(released.quantity());
                }
                happen(effect);
            }));
        }

        private void happen(Effect effect) {
            told.add(effect.toString());
            chain = chain.after(effect);
            postings.of(effect).ifPresent(proposal -> {
                var sum = proposal.posting().lines().stream().map(Posting.Line::amount).reduce(eur("0.00"), Money::plus);
                assertThat(sum.isZero()).as("%s: %s balances", name, proposal).isTrue();
                proposal.posting().lines().forEach(line -> ledger.merge(line.role(), line.amount(), Money::plus));
            });
        }

        private void check() {
            var zero = Money.zero(EUR);
            var unbilled = chain.unbilled().stream().map(Chain.Unbilled::cost).reduce(zero, Money::plus);
            var invoices = chain.invoices().stream().map(Invoice::totals).toList();
            same("goods out", AccountRole.GOODS_OUT, unbilled);
            same("inventory", AccountRole.INVENTORY, shelf.value());
            same("receivables", AccountRole.RECEIVABLES, invoices.stream().map(t -> t.gross()).reduce(zero, Money::plus));
            same("revenue", AccountRole.REVENUE, invoices.stream().map(t -> t.net()).reduce(zero, Money::plus).negated());
            same("VAT", AccountRole.OUTPUT_VAT, invoices.stream().map(t -> t.vat()).reduce(zero, Money::plus).negated());
            for (var flow : chain.flows()) {
                assertThat(List.of(flow.toShip(), flow.toBill(), flow.reserved(), flow.staged(), flow.unreserved()))
                        .as("%s: %s after %s", name, flow, told).noneMatch(Quantity::isNegative);
            }
            if (chain.flows().stream().allMatch(flow -> flow.toBill().isZero())) {
                assertThat(unbilled).as("%s: all is billed, so no cost is left behind: %s", name, told).isEqualTo(zero);
            }
        }

        private void same(String what, AccountRole role, Money documents) {
            assertThat(ledger.getOrDefault(role, Money.zero(EUR))).as("%s: %s after %s", name, what, told).isEqualTo(documents);
        }
    }
}
