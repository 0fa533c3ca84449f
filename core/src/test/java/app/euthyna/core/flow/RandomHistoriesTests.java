package app.euthyna.core.flow;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.Given;
import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.Depositing;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.goods.Claim;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Reserving;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.goods.StockCount;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Posting;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import app.euthyna.core.unwind.Choices;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Planner;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.core.unwind.UnwindRequest;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;

/**
 * Random lives of two orders of a customer, decided and folded by the core alone: goods in, counted, reserved,
 * transferred, staged, sent off; billed, ahead too and together; deposits, payments, credit, refunds and payments that
 * bounce. After every step the ledger must be what the documents say, and every refusal must leave all as it was.
 */
class RandomHistoriesTests {

    private static final EffectHandlers<History.Documents, Boolean> DOCUMENTS =
            EffectHandlers.<History.Documents>deeds()
                    .on(Effect.StockReceived.class, History.Documents::stockReceived)
                    .on(Effect.StockCounted.class, History.Documents::stockCounted)
                    .on(Effect.StockReserved.class, History.Documents::stockReserved)
                    .on(Effect.ReservationReleased.class, History.Documents::reservationReleased)
                    .on(Effect.DispatchDeparted.class, History.Documents::dispatchDeparted)
                    .on(Effect.DispatchReversed.class, History.Documents::dispatchReversed)
                    .on(Effect.ReturnInspected.class, History.Documents::returnInspected)
                    .on(Effect.CreditNotePosted.class, History.Documents::creditNotePosted)
                    .on(Effect.PaymentReceived.class, History.Documents::paymentReceived)
                    .on(Effect.CreditAllocated.class, History.Documents::creditAllocated)
                    .on(Effect.AllocationTakenOff.class, History.Documents::allocationTakenOff)
                    .on(Effect.PaymentReversed.class, History.Documents::paymentReversed)
                    .on(Effect.DepositReceived.class, History.Documents::depositReceived)
                    .on(Effect.DepositApplied.class, History.Documents::depositApplied)
                    .on(Effect.DepositTakenOff.class, History.Documents::depositTakenOff)
                    .on(Effect.DepositCredited.class, History.Documents::depositCredited)
                    .on(Effect.RefundGiven.class, History.Documents::refundGiven)
                    .on(Effect.RefundReversed.class, History.Documents::refundReversed)
                    .othersDoNotConcernIt();

    private static final int HISTORIES = 2_000;
    private static final int STEPS = 40;
    private static final ReturnPolicy AHEAD = new ReturnPolicy(
            Optional.empty(), List.of(new ReturnPolicy.Reason("damaged", "damaged", false, false, true)));
    private static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);

    @Test
    void booksFollowFromTheDocumentsAfterEveryStep() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("random histories from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        var happened = new TreeMap<String, Integer>();
        for (int history = 0; history < HISTORIES; history++) {
            new History(new Random(seed + history), "seed " + seed + ", history " + history, happened).live();
        }
        assertThat(happened)
                .as("every kind of thing has happened often")
                .hasSizeGreaterThanOrEqualTo(28)
                .allSatisfy((kind, times) -> assertThat(times).as(kind).isGreaterThan(5));
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
        for (int history = 0; history < 1_500; history++) {
            var name = "seed " + seed + ", history " + history;
            var with = new History(new Random(seed + history), name, new TreeMap<>());
            var without = new History(new Random(seed + history), name, new TreeMap<>());
            for (int step = 0; step < 20; step++) {
                with.step();
                without.step();
            }
            List.of(with, without).forEach(History::applyAllDeposits);
            var billed = with.bill();
            if (billed.isEmpty()) {
                continue;
            }
            taken++;
            var invoice = billed.get().invoice();
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
            assertThat(with.flows())
                    .as("%s: order lines after %s", name, with.told)
                    .isEqualTo(without.flows());
            assertThat(Planner.plan(
                                    with.unwindContext(),
                                    with.unwindRequest(
                                            new Intent.TakeBackInvoice(invoice.number(), true), Choices.NONE))
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
        assertThat(taken).isGreaterThan(300);
    }

    /** A dispatch that is taken back and sent off again leaves what it had left; with its invoice, too. */
    @Test
    void whatIsTakenBackAndDoneAgainLeavesTheSame() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("done again from seed " + seed + " (-Dseed=" + seed + " runs them again)");
        int taken = 0;
        for (int history = 0; history < 1_500; history++) {
            var one = new History(new Random(seed + history), "seed " + seed + ", history " + history, new TreeMap<>());
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
        assertThat(taken).isGreaterThan(200);
    }

    private static final class History {

        private Random random;
        private final String name;
        private final Map<String, Integer> happened;
        private final Map<AccountRole, Money> ledger = new EnumMap<>(AccountRole.class);
        private final Map<DocumentRef, List<Posting>> toMirror = new HashMap<>();
        private final Map<String, UnwindContext.Applied> applied = new LinkedHashMap<>();
        private final Postings postings = new Postings(item -> "", customer -> "");
        private final List<String> told = new ArrayList<>();
        private final Map<String, Chain> chains = new LinkedHashMap<>();
        private final Map<String, Money> settled = new TreeMap<>();
        private final Map<String, RefundRules.Source> payments = new LinkedHashMap<>();
        private final Map<String, RefundRules.Refund> refunds = new LinkedHashMap<>();
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
                    var kind = List.of(LineKind.SERVICE, LineKind.CHARGE, LineKind.STOCK)
                            .get(Math.min(random.nextInt(8), 2));
                    lines.add(line(
                            no,
                            kind,
                            "A",
                            String.valueOf(1 + random.nextInt(12)),
                            BigDecimal.valueOf(random.nextInt(99_999), 4).toPlainString(),
                            List.of("0", "9", "21").get(random.nextInt(3))));
                }
                chains.put(so, Chain.of(order(so, OrderState.CLEARED, lines.toArray(OrderLine[]::new))));
            }
        }

        private void live() {
            for (int step = 0; step < STEPS; step++) {
                step();
            }
        }

        /** Goods alone come and go. */
        private void goods() {
            switch (random.nextInt(6)) {
                case 0 -> receive();
                case 1 -> reserve();
                case 2 ->
                    Dispatching.stage(any(chain -> !chain.reserved().isEmpty()), next("D-"), TODAY, List.of())
                            .result()
                            .ifPresent(this::happen);
                case 3 ->
                    any().staged().stream()
                            .findFirst()
                            .ifPresent(d -> happen(Dispatching.voidStaged(d).get()));
                default -> depart();
            }
        }

        private Money payInFull(Invoice invoice) {
            var open = open(invoice.number());
            if (open.isPositive()) {
                happen(Receiving.receive(
                                next("P-"), "C", open, List.of(new Settlement(invoice.number(), open)), invoices())
                        .get());
            }
            return open;
        }

        /** The same quantities of the same lines, ahead where they were. */
        private void billAgain(Invoice invoice) {
            var orders = invoice.lines().stream()
                    .map(l -> chains.get(l.orderLine().number()))
                    .distinct()
                    .toList();
            var shares = invoice.lines().stream()
                    .map(l -> new Billing.Share(l.orderLine(), l.quantity()))
                    .toList();
            happen(Billing.bill(
                            "C",
                            orders,
                            shares,
                            new Billing.Terms(next("2026-"), TODAY, 30, "", true),
                            Set.of(OrderKind.STANDARD))
                    .get());
        }

        private Map<AccountRole, Money> balances() {
            var balances = new EnumMap<AccountRole, Money>(AccountRole.class);
            for (var role : AccountRole.values()) {
                balances.put(role, ledger.getOrDefault(role, eur("0.00")));
            }
            return balances;
        }

        private List<LineFlow> flows() {
            return chains.values().stream()
                    .flatMap(chain -> chain.flows().stream())
                    .toList();
        }

        private void applyAllDeposits() {
            List.copyOf(chains.values())
                    .forEach(chain -> applyDeposits(chains.get(chain.order().number())));
        }

        private void step() {
            switch (random.nextInt(32)) {
                case 0, 1, 2 -> receive();
                case 3, 4, 5, 6 -> reserve();
                case 7, 8, 9 ->
                    Dispatching.stage(any(chain -> !chain.reserved().isEmpty()), next("D-"), TODAY, List.of())
                            .result()
                            .ifPresent(this::happen);
                case 10, 11, 12, 13 -> depart();
                case 14 ->
                    any().staged().stream()
                            .findFirst()
                            .ifPresent(d -> happen(Dispatching.voidStaged(d).get()));
                case 15, 16, 17 -> bill();
                case 18 -> count();
                case 19 -> transfer();
                case 20 -> deposit();
                case 21, 22 -> pay();
                case 23 -> giveBack();
                case 24, 25 -> takeBack();
                case 26, 27, 28, 29 -> List.of(1, 2, 3).forEach(time -> goodsBack());
                case 30 -> allow();
                default -> cancelSome();
            }
            check();
        }

        private String next(String prefix) {
            return prefix + ++number;
        }

        private Chain any() {
            return List.copyOf(chains.values()).get(random.nextInt(2));
        }

        /** One of which that is true, where one is: histories are short. */
        private Chain any(Predicate<Chain> which) {
            var fitting = chains.values().stream().filter(which).toList();
            return fitting.isEmpty() ? any() : fitting.get(random.nextInt(fitting.size()));
        }

        private void receive() {
            var quantity = Quantity.of(1 + random.nextInt(12));
            happen(new Effect.StockReceived(
                    next("SR-"),
                    "S",
                    "A",
                    quantity,
                    shelf.valueAt(quantity, BigDecimal.valueOf(random.nextInt(90_000), 4))));
        }

        private void reserve() {
            for (var chain : List.copyOf(chains.values())) {
                for (var flow : chain.flows()) {
                    var given = flow.unreserved().min(shelf.free());
                    if (flow.line().kind().isShipped() && given.isPositive()) {
                        happen(new Effect.StockReserved(
                                new LineRef(chain.order().number(), flow.line().no()), "S", "A", given));
                    }
                }
            }
        }

        private void depart() {
            var chain = any(c -> !c.staged().isEmpty());
            chain.staged().stream()
                    .findFirst()
                    .ifPresent(dispatch -> happen(Dispatching.depart(chain, dispatch, Map.of("A", shelf), TODAY)
                            .get()));
        }

        /** Bills one unit of something, or all that can be billed; of one order or of both; ahead at times. */
        private Optional<Effect.InvoicePosted> bill() {
            var together = random.nextInt(3) == 0 ? List.copyOf(chains.values()) : List.of(any());
            var ahead = random.nextInt(3) == 0;
            var shares = new ArrayList<Billing.Share>();
            if (random.nextBoolean()) {
                together.get(0).flows().stream()
                        .filter(flow -> (ahead ? flow.toBillAhead() : flow.toBill()).isPositive())
                        .findFirst()
                        .ifPresent(flow -> shares.add(new Billing.Share(
                                new LineRef(
                                        together.get(0).order().number(),
                                        flow.line().no()),
                                Quantity.of(1))));
            }
            var billed = Billing.bill(
                            "C",
                            together,
                            shares,
                            new Billing.Terms(next("2026-"), TODAY, 30, "", ahead),
                            Set.of(OrderKind.STANDARD))
                    .result();
            billed.ifPresent(invoiced -> {
                happen(invoiced);
                invoiced.orders().stream().sorted().forEach(order -> applyDeposits(chains.get(order)));
            });
            return billed;
        }

        private void applyDeposits(Chain chain) {
            var invoices = chain.inForce()
                    .map(i -> new OpenInvoice(i.number(), "C", i.totals().gross(), open(i.number())))
                    .toList();
            Depositing.apply(chain, invoices).forEach(this::happen);
        }

        private void count() {
            var held = new ArrayList<StockCount.Held>();
            chains.values()
                    .forEach(chain -> chain.reserved().forEach((no, quantity) -> {
                        var line = new LineRef(chain.order().number(), no);
                        held.add(new StockCount.Held(
                                line, quantity, new Claim(line, quantity, TODAY, random.nextInt(9))));
                    }));
            StockCount.count(
                            next("SC-"),
                            shelf,
                            Quantity.of(random.nextInt(14)),
                            Optional.of(BigDecimal.valueOf(random.nextInt(90_000), 4)),
                            held,
                            "counted")
                    .result()
                    .ifPresent(effects -> effects.forEach(this::happen));
        }

        private void transfer() {
            var from = any();
            var to = any();
            Reserving.transfer(from, 1, to, 1, Quantity.of(1 + random.nextInt(3)), "more urgent")
                    .result()
                    .filter(h -> !h.from().equals(h.to()))
                    .ifPresent(this::happen);
        }

        private Money amount(int cents) {
            return eur(BigDecimal.valueOf(1 + random.nextInt(cents), 2).toPlainString());
        }

        private void deposit() {
            var chain = any();
            var other = chains.values().stream()
                    .filter(c -> !c.order().number().equals(chain.order().number()))
                    .findFirst()
                    .orElseThrow();
            var deposit = chain.deposits().isEmpty()
                    ? ""
                    : chain.deposits()
                            .get(random.nextInt(chain.deposits().size()))
                            .number();
            switch (deposit.isEmpty() ? 0 : random.nextInt(5)) {
                case 0, 1 ->
                    Depositing.receive(chain, next("DP-"), amount(6_000), TODAY)
                            .result()
                            .ifPresent(received -> {
                                happen(received);
                                applyDeposits(chains.get(received.order()));
                            });
                case 2 ->
                    Depositing.move(chain, deposit, other, next("DP-"), amount(3_000), TODAY)
                            .result()
                            .ifPresent(moved -> {
                                happen(moved);
                                applyDeposits(chains.get(moved.toOrder()));
                            });
                case 3 ->
                    Depositing.credit(chain, deposit, amount(3_000)).result().ifPresent(this::happen);
                default ->
                    RefundRules.refundDeposit(next("RF-"), chain, deposit, amount(3_000))
                            .result()
                            .ifPresent(this::happen);
            }
        }

        private Map<String, OpenInvoice> invoices() {
            var invoices = new LinkedHashMap<String, OpenInvoice>();
            chains.values()
                    .forEach(chain -> chain.inForce()
                            .forEach(i -> invoices.put(
                                    i.number(),
                                    new OpenInvoice(i.number(), "C", i.totals().gross(), open(i.number())))));
            return invoices;
        }

        private Money open(String invoice) {
            return (invoice(invoice).reversed()
                            ? eur("0.00")
                            : invoice(invoice).totals().gross())
                    .minus(settled.getOrDefault(invoice, eur("0.00")));
        }

        private Invoice invoice(String number) {
            return chains.values().stream()
                    .flatMap(c -> c.invoices().stream())
                    .filter(i -> i.number().equals(number))
                    .findFirst()
                    .orElseThrow();
        }

        /** Too much, too little or just enough, against one invoice or none; or credit that is there. */
        private void pay() {
            var open = invoices().values().stream()
                    .filter(i -> i.open().isPositive())
                    .toList();
            var settlements = open.isEmpty()
                    ? List.<Settlement>of()
                    : List.of(new Settlement(
                            open.get(0).number(),
                            random.nextBoolean() ? open.get(0).open() : amount(2_000)));
            if (random.nextBoolean()) {
                Receiving.receive(next("P-"), "C", amount(9_000), settlements, invoices())
                        .result()
                        .ifPresent(this::happen);
            } else {
                var credits = payments.values().stream()
                        .filter(p -> p.left().isPositive())
                        .map(p -> new Receiving.Credit(p.document(), p.left()))
                        .toList();
                Receiving.allocateCredit("C", settlements, invoices(), credits)
                        .result()
                        .ifPresent(effects -> effects.forEach(this::happen));
            }
        }

        private void giveBack() {
            if (payments.isEmpty()) {
                return;
            }
            var payment = List.copyOf(payments.values()).get(random.nextInt(payments.size()));
            switch (random.nextInt(4)) {
                case 3 ->
                    refunds.values().stream()
                            .findFirst()
                            .map(RefundRules::reverse)
                            .flatMap(Decision::result)
                            .ifPresent(this::happen);
                case 0 ->
                    RefundRules.refundCredit(next("RF-"), payment, amount(3_000))
                            .result()
                            .ifPresent(this::happen);
                case 1 ->
                    payment.settled().entrySet().stream()
                            .filter(e -> e.getValue().isPositive())
                            .findFirst()
                            .map(e -> RefundRules.takeOff(payment, List.of(new Settlement(e.getKey(), e.getValue()))))
                            .flatMap(Decision::result)
                            .ifPresent(this::happen);
                default ->
                    Optional.of(payment)
                            .filter(p -> p.document().kind() == DocumentKind.PAYMENT)
                            .map(RefundRules::reverse)
                            .flatMap(Decision::result)
                            .ifPresent(this::happen);
            }
        }

        private void cancelSome() {
            if (random.nextInt(6) > 0) {
                return;
            }
            unwind(new Intent.CancelRest(any().order().number(), List.of()));
        }

        private void unwind(Intent intent) {
            Planner.plan(unwindContext(), unwindRequest(intent))
                    .result()
                    .ifPresent(plan -> plan.now().forEach(step -> step.effects().forEach(this::happen)));
        }

        private UnwindRequest unwindRequest(Intent intent) {
            var money = List.of(
                            Optional.<Choices.MoneyTo>empty(),
                            Optional.of(Choices.MoneyTo.REFUND),
                            Optional.of(Choices.MoneyTo.CUSTOMER_CREDIT))
                    .get(random.nextInt(3));
            return unwindRequest(
                    intent, new Choices(money, BigDecimal.valueOf(random.nextInt(3) * 5L), random.nextInt(3) == 0));
        }

        private UnwindRequest unwindRequest(Intent intent, Choices choices) {
            return new UnwindRequest(intent, choices, CONTROLLER, "why", "damaged", TODAY, kind -> next(kind.prefix()));
        }

        private UnwindContext unwindContext() {
            var open = new TreeMap<String, Money>();
            chains.values().forEach(chain -> chain.invoices().forEach(i -> open.put(i.number(), open(i.number()))));
            return new UnwindContext(
                    List.copyOf(chains.values()),
                    open,
                    applied.values().stream()
                            .filter(a -> a.amount().isPositive())
                            .toList(),
                    List.copyOf(payments.values()),
                    Optional.empty(),
                    RefundRules.Bounds.NONE);
        }

        private void takeBack() {
            var chain = any();
            switch (random.nextInt(3)) {
                case 0 ->
                    chain.invoices().stream()
                            .skip(random.nextInt(3))
                            .findFirst()
                            .ifPresent(i -> unwind(new Intent.TakeBackInvoice(i.number(), random.nextBoolean())));
                case 1 ->
                    chain.dispatches().stream()
                            .filter(d -> d.state() == Dispatch.State.DEPARTED)
                            .skip(random.nextInt(2))
                            .findFirst()
                            .ifPresent(d -> unwind(new Intent.TakeBackDispatch(d.number())));
                default ->
                    unwind(new Intent.GiveMoneyBack(
                            DocumentRef.order(chain.order().number())));
            }
        }

        /** Goods come back, a little at a time and in any order of doing things. */
        private void goodsBack() {
            var chain = any(
                    random.nextInt(3) == 0
                            ? Chain::anyDeparted
                            : c -> !c.returns().isEmpty());
            var goods = chain.returns().isEmpty()
                    ? null
                    : chain.returns().get(random.nextInt(chain.returns().size()));
            switch (goods == null ? 0 : random.nextInt(6)) {
                case 0 -> authorise(chain);
                case 1 ->
                    Returning.receive(
                                    goods,
                                    random.nextBoolean()
                                            ? List.of()
                                            : List.of(new Returning.Came(1 + random.nextInt(2), Quantity.of(1))),
                                    chains.values(),
                                    TODAY)
                            .result()
                            .ifPresent(this::happen);
                case 2 -> inspect(goods);
                case 3 ->
                    Crediting.creditReturn(
                                    goods, chains.values(), unwindContext().open(), terms())
                            .result()
                            .ifPresent(all -> all.forEach(this::happen));
                case 4 ->
                    Crediting.creditAhead(
                                    goods, chains.values(), unwindContext().open(), terms(), AHEAD)
                            .result()
                            .ifPresent(all -> all.forEach(this::happen));
                default ->
                    Optional.of(goods)
                            .filter(g -> random.nextInt(3) == 0)
                            .map(g -> Returning.withdraw(g, Chain.credits(chains.values())))
                            .flatMap(Decision::result)
                            .ifPresent(this::happen);
            }
        }

        private void authorise(Chain chain) {
            if (random.nextBoolean()) {
                unwind(new Intent.TakeGoodsBack(
                        DocumentRef.order(chain.order().number()),
                        random.nextBoolean() ? List.of() : List.of(new Intent.Part(1, Quantity.of(1)))));
            } else {
                chain.inForce()
                        .skip(random.nextInt(2))
                        .findFirst()
                        .ifPresent(i -> unwind(new Intent.TakeGoodsBack(
                                new DocumentRef(DocumentKind.INVOICE, i.number()),
                                random.nextBoolean() ? List.of() : List.of(new Intent.Part(1, Quantity.of("0.5"))))));
            }
        }

        private Crediting.Terms terms() {
            return new Crediting.Terms(
                    () -> next("C"),
                    TODAY,
                    "came back",
                    BigDecimal.valueOf(random.nextInt(3) * 5L),
                    random.nextInt(3) == 0);
        }

        private void inspect(Return goods) {
            goods.lines().stream()
                    .filter(line -> line.inInspection().isPositive())
                    .findFirst()
                    .ifPresent(line -> {
                        var kind = Given.oneOf(random, Return.Outcome.Kind.values());
                        var quantity = random.nextBoolean()
                                ? line.inInspection()
                                : line.inInspection().min(Quantity.of(1));
                        var credits = Chain.credits(chains.values());
                        Returning.inspect(
                                        goods,
                                        List.of(new Returning.InspectionLine(line.no(), kind, quantity, "S", "")),
                                        credits,
                                        TODAY)
                                .result()
                                .ifPresent(this::happen);
                    });
        }

        private void allow() {
            any().inForce().skip(random.nextInt(2)).findFirst().ifPresent(invoice -> {
                var before = Chain.credits(chains.values()).stream()
                        .filter(c -> c.invoice().equals(invoice.number()))
                        .toList();
                var shares = switch (random.nextInt(3)) {
                    case 0 -> Crediting.everything(invoice, before);
                    case 1 -> List.of(Crediting.Share.of(1, Quantity.of(1)));
                    default -> List.of(Crediting.Share.of(1, amount(500)));
                };
                Crediting.credit(invoice, before, shares, open(invoice.number()), terms())
                        .result()
                        .ifPresent(this::happen);
            });
        }

        private void happen(Effect effect) {
            told.add(effect.toString());
            happened.merge(effect.getClass().getSimpleName(), 1, Integer::sum);
            chains.replaceAll((order, chain) -> {
                var after = chain.after(effect);
                assertThat(after.equals(chain) || effect.orders().contains(order))
                        .as("%s: %s changes the chain of %s, so it names it", name, effect, order)
                        .isTrue();
                return after;
            });
            DOCUMENTS.of(new Documents(), effect);
            postings.of(effect).ifPresent(proposal -> {
                post(proposal.posting(), false);
                toMirror.computeIfAbsent(proposal.document(), d -> new ArrayList<>())
                        .add(proposal.posting());
            });
            if (effect instanceof Effect.InvoiceReversed reversed) {
                assertThat(settled.getOrDefault(reversed.invoice().number(), eur("0.00"))
                                .isZero())
                        .as("%s: nothing is applied to %s: %s", name, reversed, told)
                        .isTrue();
            }
            Postings.mirrored(effect).ifPresent(this::mirror);
        }

        private void mirror(DocumentRef document) {
            toMirror.getOrDefault(document, List.of()).forEach(posting -> post(posting, true));
            toMirror.remove(document);
        }

        private void post(Posting posting, boolean mirrored) {
            var sum = posting.lines().stream().map(Posting.Line::amount).reduce(eur("0.00"), Money::plus);
            assertThat(sum.isZero()).as("%s: %s balances", name, posting).isTrue();
            posting.lines()
                    .forEach(line ->
                            ledger.merge(line.role(), mirrored ? line.amount().negated() : line.amount(), Money::plus));
        }

        /** What shelves, payments and the bank hold, told by the effects and not by the ledger. */
        private final class Documents {

            private void stockReceived(Effect.StockReceived effect) {
                shelf = shelf.receive(effect.quantity(), effect.value());
                adjusted = adjusted.plus(effect.value());
            }

            private void stockCounted(Effect.StockCounted effect) {
                shelf = shelf.correct(effect.quantity(), effect.value());
                adjusted = adjusted.plus(effect.value());
            }

            private void stockReserved(Effect.StockReserved effect) {
                shelf = shelf.reserve(effect.quantity());
            }

            private void reservationReleased(Effect.ReservationReleased effect) {
                shelf = shelf.release(effect.quantity());
            }

            private void dispatchDeparted(Effect.DispatchDeparted effect) {
                effect.dispatch().lines().forEach(line -> shelf = shelf.issue(line.quantity(), line.cost()));
            }

            private void dispatchReversed(Effect.DispatchReversed effect) {
                effect.dispatch().lines().forEach(line -> shelf = shelf.receive(line.quantity(), line.cost()));
                effect.reserved().forEach(line -> shelf = shelf.reserve(line.quantity()));
            }

            private void returnInspected(Effect.ReturnInspected effect) {
                effect.results().stream()
                        .map(Effect.InspectionResult::outcome)
                        .filter(o -> o.kind() == Return.Outcome.Kind.RESTOCK)
                        .forEach(o -> shelf = shelf.receive(o.quantity(), o.cost()));
            }

            private void creditNotePosted(Effect.CreditNotePosted effect) {
                var credit = effect.credit();
                source(
                        DocumentKind.CREDIT_NOTE,
                        credit.number(),
                        credit.totals().gross());
                if (effect.settled().isPositive()) {
                    settle(credit.number(), List.of(new Settlement(credit.invoice(), effect.settled())), false);
                }
            }

            private void paymentReceived(Effect.PaymentReceived effect) {
                bank = bank.plus(effect.amount());
                source(DocumentKind.PAYMENT, effect.payment(), effect.amount());
                settle(effect.payment(), effect.settlements(), false);
            }

            private void creditAllocated(Effect.CreditAllocated effect) {
                settle(effect.source().number(), effect.settlements(), false);
            }

            private void allocationTakenOff(Effect.AllocationTakenOff effect) {
                settle(effect.source().number(), effect.settlements(), true);
            }

            private void paymentReversed(Effect.PaymentReversed effect) {
                settle(effect.payment(), effect.settlements(), true);
                bank = bank.minus(effect.amount());
                var was = payments.get(effect.payment());
                payments.put(
                        effect.payment(),
                        new RefundRules.Source(
                                was.document(), "C", was.amount(), eur("0.00"), was.refunded(), true, was.settled()));
            }

            private void depositReceived(Effect.DepositReceived effect) {
                bank = bank.plus(effect.amount());
            }

            private void depositApplied(Effect.DepositApplied effect) {
                apply(effect.deposit(), effect.order(), effect.settlements(), false);
            }

            private void depositTakenOff(Effect.DepositTakenOff effect) {
                apply(effect.deposit(), effect.order(), effect.settlements(), true);
            }

            private void apply(String deposit, String order, List<Settlement> settlements, boolean off) {
                for (var s : settlements) {
                    var amount = off ? s.amount().negated() : s.amount();
                    settled.merge(s.invoice(), amount, Money::plus);
                    applied.merge(
                            deposit + " " + s.invoice(),
                            new UnwindContext.Applied(deposit, order, "C", s.invoice(), amount),
                            (a, b) -> new UnwindContext.Applied(
                                    deposit, order, "C", s.invoice(), a.amount().plus(b.amount())));
                }
            }

            private void depositCredited(Effect.DepositCredited effect) {
                source(DocumentKind.DEPOSIT, effect.deposit(), effect.amount());
            }

            private void refundGiven(Effect.RefundGiven effect) {
                bank = bank.minus(effect.amount());
                if (effect.order().isEmpty()) {
                    var was = payments.get(effect.source().number());
                    payments.put(
                            effect.source().number(),
                            new RefundRules.Source(
                                    was.document(),
                                    "C",
                                    was.amount(),
                                    was.left().minus(effect.amount()),
                                    was.refunded().plus(effect.amount()),
                                    false,
                                    was.settled()));
                }
                refunds.put(
                        effect.refund(),
                        new RefundRules.Refund(
                                effect.refund(), "C", effect.source(), effect.order(), effect.amount(), false));
            }

            private void refundReversed(Effect.RefundReversed effect) {
                bank = bank.plus(effect.amount());
                if (effect.order().isEmpty()) {
                    var was = payments.get(effect.source().number());
                    payments.put(
                            effect.source().number(),
                            new RefundRules.Source(
                                    was.document(),
                                    "C",
                                    was.amount(),
                                    was.left().plus(effect.amount()),
                                    was.refunded().minus(effect.amount()),
                                    false,
                                    was.settled()));
                }
                refunds.remove(effect.refund());
            }

            private void source(DocumentKind kind, String number, Money amount) {
                var was = payments.get(number);
                payments.put(
                        number,
                        new RefundRules.Source(
                                new DocumentRef(kind, number),
                                "C",
                                was == null ? amount : was.amount().plus(amount),
                                was == null ? amount : was.left().plus(amount),
                                was == null ? eur("0.00") : was.refunded(),
                                false,
                                was == null ? Map.of() : was.settled()));
            }

            private void settle(String payment, List<Settlement> settlements, boolean off) {
                for (var s : settlements) {
                    var amount = off ? s.amount().negated() : s.amount();
                    settled.merge(s.invoice(), amount, Money::plus);
                    var was = payments.get(payment);
                    var own = new LinkedHashMap<>(was.settled());
                    own.merge(s.invoice(), amount, Money::plus);
                    payments.put(
                            payment,
                            new RefundRules.Source(
                                    was.document(),
                                    "C",
                                    was.amount(),
                                    was.left().minus(amount),
                                    was.refunded(),
                                    was.reversed(),
                                    own));
                }
            }
        }

        private void check() {
            var zero = Money.zero(EUR);
            var unbilled = chains.values().stream()
                    .flatMap(c -> c.unbilled().stream())
                    .map(Chain.Unbilled::cost)
                    .reduce(zero, Money::plus);
            var invoices = new LinkedHashMap<String, Invoice>();
            chains.values().forEach(chain -> chain.inForce().forEach(i -> invoices.putIfAbsent(i.number(), i)));
            var unearned = zero;
            for (var invoice : invoices.values()) {
                for (var line : invoice.lines()) {
                    var own = chains.get(line.orderLine().number()).invoices().stream()
                            .filter(i -> i.number().equals(invoice.number()))
                            .findFirst()
                            .orElseThrow()
                            .lines()
                            .stream()
                            .filter(l -> l.no() == line.no())
                            .findFirst()
                            .orElseThrow();
                    unearned = unearned.plus(own.unearned());
                    if (own.ahead().isZero()) {
                        assertThat(own.unearned())
                                .as("%s: all of %s has left, so all of it is earned: %s", name, own, told)
                                .isEqualTo(zero);
                    }
                }
            }
            var net = invoices.values().stream().map(i -> i.totals().net()).reduce(zero, Money::plus);
            var gross = invoices.values().stream().map(i -> i.totals().gross()).reduce(zero, Money::plus);
            var credits = Chain.credits(chains.values());
            var creditedNet = credits.stream().map(c -> c.totals().net()).reduce(zero, Money::plus);
            var creditedVat = credits.stream().map(c -> c.totals().vat()).reduce(zero, Money::plus);
            var parts = chains.values().stream()
                    .flatMap(c -> c.returns().stream())
                    .distinct()
                    .flatMap(r -> r.lines().stream())
                    .flatMap(l -> l.parts().stream())
                    .toList();
            var inspection = parts.stream().map(Return.Part::costInInspection).reduce(zero, Money::plus);
            var scrapped = parts.stream()
                    .flatMap(p -> p.outcomes().stream())
                    .filter(o -> o.kind() == Return.Outcome.Kind.SCRAP)
                    .map(Return.Outcome::cost)
                    .reduce(zero, Money::plus);
            same("goods in inspection", AccountRole.GOODS_IN_INSPECTION, inspection);
            same("write-off", AccountRole.WRITE_OFF, scrapped);
            var creditedAhead = credits.stream()
                    .flatMap(c -> c.lines().stream())
                    .map(CreditNote.Line::deferred)
                    .reduce(zero, Money::plus);
            same("sales returns", AccountRole.SALES_RETURNS, creditedNet.minus(creditedAhead));
            same("goods out", AccountRole.GOODS_OUT, unbilled);
            same("inventory", AccountRole.INVENTORY, shelf.value());
            same("bank", AccountRole.BANK, bank);
            same(
                    "receivables",
                    AccountRole.RECEIVABLES,
                    gross.minus(settled.values().stream().reduce(zero, Money::plus)));
            same(
                    "revenue",
                    AccountRole.REVENUE,
                    net.minus(creditedAhead).minus(unearned).negated());
            same("deferred revenue", AccountRole.DEFERRED_REVENUE, unearned.negated());
            same("VAT", AccountRole.OUTPUT_VAT, creditedVat.minus(gross.minus(net)));
            same(
                    "deposits",
                    AccountRole.DEPOSITS,
                    chains.values().stream()
                            .map(Chain::unappliedDeposits)
                            .reduce(zero, Money::plus)
                            .negated());
            same(
                    "customer credit",
                    AccountRole.CUSTOMER_CREDIT,
                    payments.values().stream()
                            .map(RefundRules.Source::left)
                            .reduce(zero, Money::plus)
                            .negated());
            same(
                    "cost of sales",
                    AccountRole.COGS,
                    adjusted.minus(shelf.value())
                            .minus(unbilled)
                            .minus(inspection)
                            .minus(scrapped));
            chains.values().forEach(this::noMoreComesBackThanLeft);
            for (var chain : chains.values()) {
                for (var flow : chain.flows()) {
                    assertThat(List.of(
                                    flow.toShip(),
                                    flow.toBill(),
                                    flow.reserved(),
                                    flow.staged(),
                                    flow.unreserved(),
                                    flow.ahead(),
                                    flow.open(),
                                    flow.returned(),
                                    flow.returnedUnbilled(),
                                    flow.credited(),
                                    flow.dispatched().minus(flow.returned()),
                                    flow.billed().minus(flow.credited())))
                            .as("%s: %s after %s", name, flow, told)
                            .noneMatch(Quantity::isNegative);
                }
            }
            assertThat(settled)
                    .allSatisfy((invoice, amount) -> assertThat(open(invoice).isNegative())
                            .as("%s: %s is settled once: %s", name, invoice, told)
                            .isFalse());
            if (chains.values().stream()
                    .flatMap(c -> c.flows().stream())
                    .allMatch(flow -> flow.toBill().isZero())) {
                assertThat(unbilled)
                        .as("%s: all is billed, so no cost is left behind: %s", name, told)
                        .isEqualTo(zero);
            }
        }

        /** Neither in quantity nor in value, of any dispatch line. */
        private void noMoreComesBackThanLeft(Chain chain) {
            for (var dispatch : chain.dispatches()) {
                for (var left : dispatch.lines()) {
                    var back = chain.returns().stream()
                            .flatMap(r -> r.lines().stream())
                            .filter(l -> l.dispatchLine().equals(new LineRef(dispatch.number(), left.no())))
                            .flatMap(l -> l.parts().stream())
                            .toList();
                    assertThat(Quantity.sum(back.stream().map(Return.Part::kept).toList())
                                    .exceeds(left.quantity()))
                            .as("%s: %s of %s", name, back, left)
                            .isFalse();
                    assertThat(back.stream().map(Return.Part::keptCost).reduce(eur("0.00"), Money::plus))
                            .as("%s: %s of %s after %s", name, back, left, told)
                            .isLessThanOrEqualTo(left.cost());
                }
            }
        }

        private void same(String what, AccountRole role, Money documents) {
            assertThat(ledger.getOrDefault(role, Money.zero(EUR)))
                    .as("%s: %s after %s", name, what, told)
                    .isEqualTo(documents);
        }
    }
}
