package app.euthyna.core.check;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Given;
import app.euthyna.core.Rounds;
import app.euthyna.core.check.CustomerPosition.Term;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RemediesTests {

    private static final List<String> ITEMS = List.of("A", "B", "C", "D");

    private static Money euros(Random random, int most) {
        return new Money(BigDecimal.valueOf(random.nextInt(most * 100), 2), EUR);
    }

    private static Chain order(Random random) {
        var lines = new ArrayList<OrderLine>();
        for (int no = 1; no <= 1 + random.nextInt(4); no++) {
            var line = app.euthyna.core.Given.stock(
                    no,
                    ITEMS.get(random.nextInt(4)),
                    String.valueOf(1 + random.nextInt(80)),
                    "1.00",
                    random.nextBoolean() ? "21" : "0");
            lines.add(line.withPrice(new Price(
                            BigDecimal.valueOf(random.nextInt(10) == 0 ? 0 : 100 + random.nextInt(5000), 2),
                            BigDecimal.valueOf(random.nextInt(3) * 15L)))
                    .withRequestedOn(TODAY.plusDays(random.nextInt(9) - 2)));
        }
        return Chain.of(app.euthyna.core.Given.order("SO-1", OrderState.SUBMITTED, lines.toArray(OrderLine[]::new)));
    }

    private static CheckContext world(Random random) {
        var items = new HashMap<String, ItemFact>();
        var free = new HashMap<String, Quantity>();
        for (var item : ITEMS) {
            items.put(
                    item,
                    new ItemFact(
                            BigDecimal.valueOf(500 + random.nextInt(4000), 2),
                            Optional.of(BigDecimal.valueOf(random.nextInt(900), 2)),
                            Optional.of(BigDecimal.valueOf(random.nextInt(2000), 2)),
                            random.nextInt(3) * 3,
                            Optional.of("pyro").filter(c -> random.nextInt(8) == 0)));
            free.put(item, Quantity.of(random.nextInt(60)));
        }
        var due = random.nextInt(4) == 0
                ? List.of(new CheckContext.DueInvoice("2026-1", TODAY.minusDays(60), euros(random, 400)))
                : List.<CheckContext.DueInvoice>of();
        var unpaid = new Term(
                due.stream().map(CheckContext.DueInvoice::open).reduce(euros(random, 1000), Money::plus), List.of());
        var nothing = Term.nothing(EUR);
        var quotas = random.nextInt(4) == 0
                ? List.of(new Quota(
                        "A", Quota.Scope.CUSTOMER, "C", TODAY, TODAY, Quantity.of(50), Quantity.of(random.nextInt(60))))
                : List.<Quota>of();
        var figures = new CheckFigures(
                Optional.empty(),
                Optional.of(BigDecimal.valueOf(random.nextInt(40))),
                java.util.Map.of(Role.CLERK, BigDecimal.valueOf(15)),
                CheckFigures.USUAL_SCORE);
        var severities = new EnumMap<Check, java.util.Map<app.euthyna.core.order.OrderKind, Severity>>(Check.class);
        for (var check : Check.values()) {
            if (random.nextInt(3) == 0) {
                severities.put(
                        check,
                        java.util.Map.of(
                                app.euthyna.core.order.OrderKind.STANDARD, Given.oneOf(random, Severity.values())));
            }
        }
        return CheckContext.of(
                        TODAY,
                        new CustomerRules(
                                "C",
                                Optional.of(euros(random, 3000)),
                                PoPolicy.STANDARD,
                                Optional.of(new CustomerRules.Overdue(30, Money.zero(EUR))),
                                Optional.empty()),
                        new CustomerPosition(unpaid, nothing, nothing, nothing))
                .withItems(items)
                .withFree(free)
                .withDueInvoices(due)
                .withQuotas(quotas)
                .withAuthorRole(Role.CLERK)
                .withPolicy(new CheckPolicy(severities, figures));
    }

    /**
     * Over random orders and policies: a remedy, carried out, leaves nothing open that it promised to clear, opens no
     * stop, and a quantity is the largest that does.
     */
    @Test
    void keepWhatTheyPromise() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("RemediesTests: -Dseed=" + seed);
        var random = new Random(seed);
        var kinds = new EnumMap<Remedy.Kind, Integer>(Remedy.Kind.class);
        for (int round = 0; round < Rounds.of(3_000); round++) {
            var chain = order(random);
            var checkContext = world(random);
            var findings = Checks.run(chain, checkContext, List.of(), Checks.Occasion.SUBMITTED, Optional.empty());
            var held =
                    chain.after(new Effect.StateChanged("SO-1", OrderState.SUBMITTED, Checks.stateOf(chain, findings)));
            for (var remedy : Remedies.of(held, checkContext, findings, changed -> checkContext)) {
                kinds.merge(remedy.kind(), 1, Integer::sum);
                var as = "seed %d, round %d, %s".formatted(seed, round, remedy);
                if (remedy.changed().isPresent()) {
                    var after = afresh(remedy.changed().get(), checkContext);
                    assertThat(after).as(as).noneMatch(f -> f.check() == remedy.check());
                    assertThat(after.stream()
                                    .filter(Finding::holds)
                                    .map(Finding::check)
                                    .toList())
                            .as(as)
                            .isSubsetOf(findings.stream()
                                    .filter(Finding::holds)
                                    .map(Finding::check)
                                    .toList());
                    assertThat(remedy.clears()).as(as).isEqualTo(after.stream().noneMatch(Finding::holds));
                }
                if (remedy.kind() == Remedy.Kind.QUANTITY && remedy.check() == Check.CREDIT_LIMIT) {
                    var more = remedy.changed().get().lines().stream()
                            .map(line -> line.quantity()
                                            .equals(chain.order()
                                                    .line(line.no())
                                                    .quantity())
                                    ? line
                                    : line.withQuantity(line.quantity().plus(Quantity.of(1))))
                            .toList();
                    assertThat(afresh(chain.order().withLines(more), checkContext))
                            .as(as)
                            .anyMatch(f -> f.check() == Check.CREDIT_LIMIT);
                }
                if (remedy.kind() == Remedy.Kind.SPLIT) {
                    chain.order()
                            .lines()
                            .forEach(line -> assertThat(at(remedy.changed().get(), line)
                                            .plus(at(remedy.rest().get(), line)))
                                    .as(as)
                                    .isEqualTo(line.quantity()));
                }
            }
        }
        assertThat(kinds.keySet()).as("every kind was met").containsExactlyInAnyOrder(Remedy.Kind.values());
    }

    private static Quantity at(app.euthyna.core.order.Order order, OrderLine line) {
        return order.hasLine(line.no()) ? order.line(line.no()).quantity() : Quantity.ZERO;
    }

    private static List<Finding> afresh(app.euthyna.core.order.Order order, CheckContext checkContext) {
        return Checks.run(
                Chain.of(order.withState(OrderState.SUBMITTED)),
                checkContext,
                List.of(),
                Checks.Occasion.SUBMITTED,
                Optional.empty());
    }
}
