package app.euthyna.core.flow;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.Depositing;
import app.euthyna.core.billing.GivingBack;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.goods.Claim;
import app.euthyna.core.goods.Correcting;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Reserving;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Posting;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Planner;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/**
 * Random lives of two orders of a customer, decided and folded by the core alone: goods in, counted, reserved, handed over, staged, sent
 * off; billed, ahead too and together; deposits, payments, credit, refunds and payments that bounce. After every step the ledger must be
 * what the documents say, and every refusal must leave all as it was.
 */
class RandomHistoriesTests {

    private static final int HISTORIES = 2_000;
    private static final int STEPS = 40;
    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    @Test
    void booksFollowFromTheDocumentsAfterEveryStep() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("random histories from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        var happened = new TreeMap<String, Integer>();
        for (int history = 0; history < HISTORIES; history++) {
            new History(new Random(seed + history), "seed " + seed + ", history " + history, happened).live();
        }
        assertThat(happened).as("every kind of thing has happened often").hasSizeGreaterThanOrEqualTo(16).allSatisfy((kind, times) -> assertThat(times).as(kind).isGreaterThan(50));
    }

    private static final class History {

        private final Random random;
        private final String name;
        private final Map<String, Integer> happened;
        private final Map<AccountRole, Money> ledger = new EnumMap<>(AccountRole.class);
        private final Map<String, List<Posting>> ofPayment = new TreeMap<>();
        private final Postings postings = new Postings(item -> "", customer -> "");
        private final List<String> told = new ArrayList<>();
        private final Map<String, Chain> chains = new LinkedHashMap<>();
        private final Map<String, Money> settled = new TreeMap<>();
        private final Map<String, GivingBack.Source> payments = new LinkedHashMap<>();
        private Money bank = eur("0.00");
        private Money adjusted = eur("0.00");
        private Shelf shelf = new Shelf("S", "A", Quantity.ZERO, Quantity.ZERO, eur("0.00"));
        private int number;

        private History(Random random, String name, Map<String, Integer> happened) {
            this.random = random;
            this.name = name;
            this.happened = happened;
            for (var so : List.of("SO-1", "SO-2")) {
                var lines = new ArrayList<OrderLine>();
                for (int no = 1; no <= 1 + random.nextInt(3); no++) {
                    var kind = random.nextInt(4) == 0 ? LineKind.SERVICE : LineKind.STOCK;
                    lines.add(line(no, kind, "A", String.valueOf(1 + random.nextInt(12)), BigDecimal.valueOf(random.nextInt(99_999), 4).toPlainString(),
                            List.of("0", "9", "21").get(random.nextInt(3))));
                }
                chains.put(so, Chain.of(order(so, OrderState.CLEARED, lines.toArray(OrderLine[]::new))));
            }
        }

        private void live() {
            for (int step = 0; step < STEPS; step++) {
                switch (random.nextInt(16)) {
                    case 0, 1 -> receive();
                    case 2, 3 -> reserve();
                    case 4 -> Dispatching.stage(any(), next("D-"), TODAY, List.of()).result().ifPresent(this::happen);
                    case 5, 6 -> depart();
                    case 7 -> any().staged().stream().findFirst().ifPresent(d -> happen(Dispatching.voidStaged(d).get()));
                    case 8, 9 -> bill();
                    case 10 -> count();
                    case 11 -> handOver();
                    case 12 -> deposit();
                    case 13 -> pay();
                    case 14 -> giveBack();
                    default -> cancelSome();
                }
                check();
            }
        }

        private String next(String prefix) {
            return prefix + ++number;
        }

        private Chain any() {
            return List.copyOf(chains.values()).get(random.nextInt(2));
        }

        private void receive() {
            var quantity = Quantity.of(1 + random.nextInt(9));
            happen(new Effect.StockReceived(next("SR-"), "S", "A", quantity, shelf.valueAt(quantity, BigDecimal.valueOf(random.nextInt(90_000), 4))));
        }

        private void reserve() {
            for (var chain : List.copyOf(chains.values())) {
                for (var flow : chain.flows()) {
                    var given = flow.unreserved().min(shelf.free());
                    if (flow.line().kind().isShipped() && given.isPositive()) {
                        happen(new Effect.Reserved(new LineRef(chain.order().number(), flow.line().no()), "S", "A", given));
                    }
                }
            }
        }

        private void depart() {
            var chain = any();
            chain.staged().stream().findFirst().ifPresent(dispatch -> happen(Dispatching.depart(chain, dispatch, Map.of("A", shelf), TODAY).get()));
        }

        /** Bills one unit of something, or all that can be billed; of one order or of both; ahead at times. */
        private void bill() {
            var together = random.nextInt(3) == 0 ? List.copyOf(chains.values()) : List.of(any());
            var ahead = random.nextInt(3) == 0;
            var shares = new ArrayList<Billing.Share>();
            if (random.nextBoolean()) {
                together.get(0).flows().stream().filter(flow -> (ahead ? flow.toBillAhead() : flow.toBill()).isPositive()).findFirst()
                        .ifPresent(flow -> shares.add(new Billing.Share(new LineRef(together.get(0).order().number(), flow.line().no()), Quantity.of(1))));
            }
            Billing.bill("C", together, shares, new Billing.Terms(next("2026-"), TODAY, 30, "", ahead), Set.of(OrderKind.STANDARD)).result().ifPresent(invoiced -> {
                happen(invoiced);
                invoiced.orders().stream().sorted().forEach(order -> applyDeposits(chains.get(order)));
            });
        }

        private void applyDeposits(Chain chain) {
            var invoices = chain.invoices().stream().map(i -> new OpenInvoice(i.number(), "C", i.totals().gross(), open(i.number()))).toList();
            Depositing.apply(chain, invoices).forEach(this::happen);
        }

        private void count() {
            var held = new ArrayList<Correcting.Held>();
            chains.values().forEach(chain -> chain.reserved().forEach((no, quantity) -> {
                var line = new LineRef(chain.order().number(), no);
                held.add(new Correcting.Held(line, quantity, new Claim(line, quantity, TODAY, random.nextInt(9))));
            }));
            Correcting.count(next("SC-"), shelf, Quantity.of(random.nextInt(14)), Optional.of(BigDecimal.valueOf(random.nextInt(90_000), 4)), held, "counted").result()
                    .ifPresent(effects -> effects.forEach(this::happen));
        }

        private void handOver() {
            var from = any();
            var to = any();
            Reserving.handOver(from, 1, to, 1, Quantity.of(1 + random.nextInt(3)), "more urgent").result().filter(h -> !h.from().equals(h.to())).ifPresent(this::happen);
        }

        private Money amount(int cents) {
            return eur(BigDecimal.valueOf(1 + random.nextInt(cents), 2).toPlainString());
        }

        private void deposit() {
            var chain = any();
            var other = chains.values().stream().filter(c -> c != chain).findFirst().orElseThrow();
            var deposit = chain.deposits().isEmpty() ? "" : chain.deposits().get(random.nextInt(chain.deposits().size())).number();
            switch (deposit.isEmpty() ? 0 : random.nextInt(5)) {
                case 0, 1 -> Depositing.receive(chain, next("DP-"), amount(6_000), TODAY).result().ifPresent(received -> {
                    happen(received);
                    applyDeposits(chains.get(received.order()));
                });
                case 2 -> Depositing.move(chain, deposit, other, next("DP-"), amount(3_000), TODAY).result().ifPresent(moved -> {
                    happen(moved);
                    applyDeposits(chains.get(moved.toOrder()));
                });
                case 3 -> Depositing.credit(chain, deposit, amount(3_000)).result().ifPresent(this::happen);
                default -> GivingBack.refundDeposit(next("RF-"), chain, deposit, amount(3_000)).result().ifPresent(this::happen);
            }
        }

        private Map<String, OpenInvoice> invoices() {
            var invoices = new LinkedHashMap<String, OpenInvoice>();
            chains.values().forEach(chain -> chain.invoices().forEach(i -> invoices.put(i.number(), new OpenInvoice(i.number(), "C", i.totals().gross(), open(i.number())))));
            return invoices;
        }

        private Money open(String invoice) {
            return invoice(invoice).totals().gross().minus(settled.getOrDefault(invoice, eur("0.00")));
        }

        private Invoice invoice(String number) {
            return chains.values().stream().flatMap(c -> c.invoices().stream()).filter(i -> i.number().equals(number)).findFirst().orElseThrow();
        }

        /** Too much, too little or just enough, against one invoice or none; or credit that is there. */
        private void pay() {
            var open = invoices().values().stream().filter(i -> i.open().isPositive()).toList();
            var settlements = open.isEmpty() ? List.<Settlement>of() : List.of(new Settlement(open.get(0).number(), random.nextBoolean() ? open.get(0).open() : amount(2_000)));
            if (random.nextBoolean()) {
                Receiving.receive(next("P-"), "C", amount(9_000), settlements, invoices()).result().ifPresent(this::happen);
            } else {
                var credits = payments.values().stream().filter(p -> p.left().isPositive()).map(p -> new Receiving.Credit(p.document().number(), p.left())).toList();
                Receiving.allocateCredit("C", settlements, invoices(), credits).result().ifPresent(effects -> effects.forEach(this::happen));
            }
        }

        private void giveBack() {
            if (payments.isEmpty()) {
                return;
            }
            var payment = List.copyOf(payments.values()).get(random.nextInt(payments.size()));
            switch (random.nextInt(3)) {
                case 0 -> GivingBack.refundCredit(next("RF-"), payment, amount(3_000)).result().ifPresent(this::happen);
                case 1 -> payment.settled().entrySet().stream().filter(e -> e.getValue().isPositive()).findFirst().map(e -> GivingBack.takeOff(payment,
                        List.of(new Settlement(e.getKey(), e.getValue())))).flatMap(Decision::result).ifPresent(this::happen);
                default -> Optional.of(payment).filter(p -> p.document().kind() == DocumentKind.PAYMENT).map(GivingBack::reverse).flatMap(Decision::result)
                        .ifPresent(this::happen);
            }
        }

        private void cancelSome() {
            if (random.nextInt(6) > 0) {
                return;
            }
            Planner.plan(any(), new Intent.CancelRest(List.of()), CONTROLLER, "why", TODAY, next("CA-")).result().ifPresent(p -> p.effects().forEach(this::happen));
        }

        private void happen(Effect effect) {
            told.add(effect.toString());
            happened.merge(effect.getClass().getSimpleName(), 1, Integer::sum);
            chains.replaceAll((order, chain) -> chain.after(effect));
            effect.accept(new Documents());
            postings.of(effect).ifPresent(proposal -> {
                post(proposal.posting(), false);
                if (proposal.document().kind() == DocumentKind.PAYMENT) {
                    ofPayment.computeIfAbsent(proposal.document().number(), p -> new ArrayList<>()).add(proposal.posting());
                }
            });
            if (effect instanceof Effect.PaymentReversed reversed) {
                ofPayment.get(reversed.payment()).forEach(posting -> post(posting, true));
            }
        }

        private void post(Posting posting, boolean mirrored) {
            var sum = posting.lines().stream().map(Posting.Line::amount).reduce(eur("0.00"), Money::plus);
            assertThat(sum.isZero()).as("%s: %s balances", name, posting).isTrue();
            posting.lines().forEach(line -> ledger.merge(line.role(), mirrored ? line.amount().negated() : line.amount(), Money::plus));
        }

        /** What shelves, payments and the bank hold, told by the effects and not by the ledger. */
        private final class Documents extends EffectListener {

            @Override
            public Void stockReceived(Effect.StockReceived effect) {
                shelf = shelf.receive(effect.quantity(), effect.value());
                adjusted = adjusted.plus(effect.value());
                return null;
            }

            @Override
            public Void stockCorrected(Effect.StockCorrected effect) {
                shelf = shelf.correct(effect.quantity(), effect.value());
                adjusted = adjusted.plus(effect.value());
                return null;
            }

            @Override
            public Void reserved(Effect.Reserved effect) {
                shelf = shelf.reserve(effect.quantity());
                return null;
            }

            @Override
            public Void released(Effect.Released effect) {
                shelf = shelf.release(effect.quantity());
                return null;
            }

            @Override
            public Void departed(Effect.Departed effect) {
                effect.dispatch().lines().forEach(line -> shelf = shelf.issue(line.quantity(), line.cost()));
                return null;
            }

            @Override
            public Void paymentReceived(Effect.PaymentReceived effect) {
                bank = bank.plus(effect.amount());
                source(DocumentKind.PAYMENT, effect.payment(), effect.amount());
                return settle(effect.payment(), effect.settlements(), false);
            }

            @Override
            public Void creditAllocated(Effect.CreditAllocated effect) {
                return settle(effect.payment(), effect.settlements(), false);
            }

            @Override
            public Void settlementTakenOff(Effect.SettlementTakenOff effect) {
                return settle(effect.payment(), effect.settlements(), true);
            }

            @Override
            public Void paymentReversed(Effect.PaymentReversed effect) {
                settle(effect.payment(), effect.settlements(), true);
                bank = bank.minus(effect.amount());
                var was = payments.get(effect.payment());
                payments.put(effect.payment(), new GivingBack.Source(was.document(), "C", was.amount(), eur("0.00"), was.refunded(), true, was.settled()));
                return null;
            }

            @Override
            public Void depositReceived(Effect.DepositReceived effect) {
                bank = bank.plus(effect.amount());
                return null;
            }

            @Override
            public Void depositApplied(Effect.DepositApplied effect) {
                effect.settlements().forEach(s -> settled.merge(s.invoice(), s.amount(), Money::plus));
                return null;
            }

            @Override
            public Void depositCredited(Effect.DepositCredited effect) {
                source(DocumentKind.DEPOSIT, effect.deposit(), effect.amount());
                return null;
            }

            @Override
            public Void refunded(Effect.Refunded effect) {
                bank = bank.minus(effect.amount());
                if (effect.order().isEmpty()) {
                    var was = payments.get(effect.source().number());
                    payments.put(effect.source().number(), new GivingBack.Source(was.document(), "C", was.amount(), was.left().minus(effect.amount()),
                            was.refunded().plus(effect.amount()), false, was.settled()));
                }
                return null;
            }

            private void source(DocumentKind kind, String number, Money amount) {
                var was = payments.get(number);
                payments.put(number, new GivingBack.Source(new DocumentRef(kind, number), "C", was == null ? amount : was.amount().plus(amount),
                        was == null ? amount : was.left().plus(amount), was == null ? eur("0.00") : was.refunded(), false, was == null ? Map.of() : was.settled()));
            }

            private Void settle(String payment, List<Settlement> settlements, boolean off) {
                for (var s : settlements) {
                    var amount = off ? s.amount().negated() : s.amount();
                    settled.merge(s.invoice(), amount, Money::plus);
                    var was = payments.get(payment);
                    var own = new LinkedHashMap<>(was.settled());
                    own.merge(s.invoice(), amount, Money::plus);
                    payments.put(payment, new GivingBack.Source(was.document(), "C", was.amount(), was.left().minus(amount), was.refunded(), was.reversed(), own));
                }
                return null;
            }
        }

        private void check() {
            var zero = Money.zero(EUR);
            var unbilled = chains.values().stream().flatMap(c -> c.unbilled().stream()).map(Chain.Unbilled::cost).reduce(zero, Money::plus);
            var invoices = new LinkedHashMap<String, Invoice>();
            chains.values().forEach(chain -> chain.invoices().forEach(i -> invoices.putIfAbsent(i.number(), i)));
            var unearned = zero;
            for (var invoice : invoices.values()) {
                for (var line : invoice.lines()) {
                    var own = chains.get(line.orderLine().number()).invoices().stream().filter(i -> i.number().equals(invoice.number())).findFirst().orElseThrow()
                            .lines().stream().filter(l -> l.no() == line.no()).findFirst().orElseThrow();
                    unearned = unearned.plus(own.unearned());
                    if (own.ahead().isZero()) {
                        assertThat(own.unearned()).as("%s: all of %s has left, so all of it is earned: %s", name, own, told).isEqualTo(zero);
                    }
                }
            }
            var net = invoices.values().stream().map(i -> i.totals().net()).reduce(zero, Money::plus);
            var gross = invoices.values().stream().map(i -> i.totals().gross()).reduce(zero, Money::plus);
            same("goods out", AccountRole.GOODS_OUT, unbilled);
            same("inventory", AccountRole.INVENTORY, shelf.value());
            same("bank", AccountRole.BANK, bank);
            same("receivables", AccountRole.RECEIVABLES, gross.minus(settled.values().stream().reduce(zero, Money::plus)));
            same("revenue", AccountRole.REVENUE, net.minus(unearned).negated());
            same("deferred revenue", AccountRole.DEFERRED_REVENUE, unearned.negated());
            same("VAT", AccountRole.OUTPUT_VAT, gross.minus(net).negated());
            same("deposits", AccountRole.DEPOSITS, chains.values().stream().map(Chain::unappliedDeposits).reduce(zero, Money::plus).negated());
            same("customer credit", AccountRole.CUSTOMER_CREDIT, payments.values().stream().map(GivingBack.Source::left).reduce(zero, Money::plus).negated());
            same("cost of sales", AccountRole.COGS, adjusted.minus(shelf.value()).minus(unbilled));
            for (var chain : chains.values()) {
                for (var flow : chain.flows()) {
                    assertThat(List.of(flow.toShip(), flow.toBill(), flow.reserved(), flow.staged(), flow.unreserved(), flow.ahead(), flow.open()))
                            .as("%s: %s after %s", name, flow, told).noneMatch(Quantity::isNegative);
                }
            }
            assertThat(settled).allSatisfy((invoice, amount) -> assertThat(open(invoice).isNegative()).as("%s: %s is settled once: %s", name, invoice, told).isFalse());
            if (chains.values().stream().flatMap(c -> c.flows().stream()).allMatch(flow -> flow.toBill().isZero())) {
                assertThat(unbilled).as("%s: all is billed, so no cost is left behind: %s", name, told).isEqualTo(zero);
            }
        }

        private void same(String what, AccountRole role, Money documents) {
            assertThat(ledger.getOrDefault(role, Money.zero(EUR))).as("%s: %s after %s", name, what, told).isEqualTo(documents);
        }
    }
}
