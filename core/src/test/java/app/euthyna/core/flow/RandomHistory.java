package app.euthyna.core.flow;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;

import app.euthyna.core.Given;
import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.Depositing;
import app.euthyna.core.billing.EarlyPaymentTerms;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.goods.Claim;
import app.euthyna.core.goods.Dispatching;
import app.euthyna.core.goods.Reserving;
import app.euthyna.core.goods.StockCount;
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
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.unwind.Choices;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Planner;
import app.euthyna.core.unwind.UnwindContext;
import app.euthyna.core.unwind.UnwindRequest;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;

/** Two orders of a customer to which something happens at random, step by step. */
final class RandomHistory extends MoneyMoves {

    private static final int STEPS = 40;
    private static final ReturnPolicy AHEAD = new ReturnPolicy(
            Optional.empty(), List.of(new ReturnPolicy.Reason("damaged", "damaged", false, false, true)));

    RandomHistory(Random random, String name, Map<String, Integer> happened) {
        super(random, name, happened);
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

    void live() {
        for (int step = 0; step < STEPS; step++) {
            step();
        }
    }

    /** Goods alone come and go. */
    void goods() {
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

    Money payInFull(Invoice invoice) {
        var open = open(invoice.number());
        if (open.isPositive()) {
            happen(Receiving.receive(next("P-"), "C", open, List.of(new Settlement(invoice.number(), open)), invoices())
                    .get());
        }
        return open;
    }

    /** The same quantities of the same lines, ahead where they were. */
    void billAgain(Invoice invoice) {
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

    void applyAllDeposits() {
        List.copyOf(chains.values())
                .forEach(chain -> applyDeposits(chains.get(chain.order().number())));
    }

    void step() {
        switch (random.nextInt(34)) {
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
            case 24, 25, 31 -> takeBack();
            case 26, 27, 28, 29 -> List.of(1, 2, 3).forEach(time -> goodsBack());
            case 30 -> allow();
            case 33 -> writeOff();
            default -> cancelSome();
        }
        check();
    }

    void receive() {
        var quantity = Quantity.of(1 + random.nextInt(12));
        happen(new Effect.StockReceived(
                next("SR-"),
                "S",
                "A",
                quantity,
                shelf.valueAt(quantity, BigDecimal.valueOf(random.nextInt(90_000), 4))));
    }

    void reserve() {
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

    void depart() {
        var chain = any(c -> !c.staged().isEmpty());
        chain.staged().stream()
                .findFirst()
                .ifPresent(dispatch -> happen(Dispatching.depart(chain, dispatch, Map.of("A", shelf), TODAY)
                        .get()));
    }

    /** Bills one unit of something, or all that can be billed; of one order or of both; ahead at times. */
    Optional<Effect.InvoicePosted> bill() {
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
                        new Billing.Terms(next("2026-"), TODAY, 30, "", ahead, earlyPayment()),
                        Set.of(OrderKind.STANDARD))
                .result();
        billed.ifPresent(invoiced -> {
            happen(invoiced);
            invoiced.orders().stream().sorted().forEach(order -> applyDeposits(chains.get(order)));
        });
        return billed;
    }

    private Optional<EarlyPaymentTerms> earlyPayment() {
        return Optional.of(new EarlyPaymentTerms(BigDecimal.valueOf(random.nextInt(4)), 10))
                .filter(terms -> terms.percent().signum() > 0);
    }

    void applyDeposits(Chain chain) {
        var invoices = chain.inForce()
                .map(i -> new OpenInvoice(i.number(), "C", i.totals().gross(), open(i.number())))
                .toList();
        Depositing.apply(chain, invoices).forEach(this::happen);
    }

    void count() {
        StockCount.count(
                        next("SC-"),
                        shelf,
                        Quantity.of(random.nextInt(14)),
                        Optional.of(BigDecimal.valueOf(random.nextInt(90_000), 4)),
                        held(),
                        "counted")
                .result()
                .ifPresent(effects -> effects.forEach(this::happen));
    }

    private List<StockCount.Held> held() {
        var held = new ArrayList<StockCount.Held>();
        chains.values()
                .forEach(chain -> chain.reserved().forEach((no, quantity) -> {
                    var line = new LineRef(chain.order().number(), no);
                    held.add(new StockCount.Held(line, quantity, new Claim(line, quantity, TODAY, random.nextInt(9))));
                }));
        return held;
    }

    void transfer() {
        var from = any();
        var to = any();
        Reserving.transfer(from, 1, to, 1, Quantity.of(1 + random.nextInt(3)), "more urgent")
                .result()
                .filter(h -> !h.from().equals(h.to()))
                .ifPresent(this::happen);
    }

    void deposit() {
        var chain = any();
        var other = chains.values().stream()
                .filter(c -> !c.order().number().equals(chain.order().number()))
                .findFirst()
                .orElseThrow();
        var deposit = chain.deposits().isEmpty()
                ? ""
                : chain.deposits().get(random.nextInt(chain.deposits().size())).number();
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
            case 3 -> Depositing.credit(chain, deposit, amount(3_000)).result().ifPresent(this::happen);
            default ->
                RefundRules.refundDeposit(next("RF-"), chain, deposit, amount(3_000))
                        .result()
                        .ifPresent(this::happen);
        }
    }

    void cancelSome() {
        if (random.nextInt(6) > 0) {
            return;
        }
        unwind(new Intent.CancelRest(any().order().number(), List.of()));
    }

    void unwind(Intent intent) {
        Planner.plan(unwindContext(intent), unwindRequest(intent))
                .result()
                .ifPresent(plan -> plan.now().forEach(step -> step.effects().forEach(this::happen)));
    }

    UnwindRequest unwindRequest(Intent intent) {
        var money = List.of(
                        Optional.<Choices.MoneyTo>empty(),
                        Optional.of(Choices.MoneyTo.REFUND),
                        Optional.of(Choices.MoneyTo.CUSTOMER_CREDIT))
                .get(random.nextInt(3));
        return unwindRequest(
                intent, new Choices(money, BigDecimal.valueOf(random.nextInt(3) * 5L), random.nextInt(3) == 0));
    }

    UnwindRequest unwindRequest(Intent intent, Choices choices) {
        return new UnwindRequest(intent, choices, CONTROLLER, "why", "damaged", TODAY, kind -> next(kind.prefix()));
    }

    UnwindContext unwindContext() {
        return unwindContext(UnwindContext.Taken.NOTHING);
    }

    UnwindContext unwindContext(Intent intent) {
        return unwindContext(taken(intent));
    }

    private UnwindContext.Taken taken(Intent intent) {
        var number = intent.subject().number();
        if (!(intent instanceof Intent.TakeBack)) {
            return UnwindContext.Taken.NOTHING;
        }
        return switch (intent.subject().kind()) {
            case DEPOSIT ->
                UnwindContext.Taken.of(new UnwindContext.DepositTaken(
                        Optional.ofNullable(origins.get(number)),
                        refundedDeposits.getOrDefault(number, amount(1).minus(amount(1))),
                        origins.entrySet().stream()
                                .filter(moved -> moved.getValue().deposit().equals(number))
                                .map(Map.Entry::getKey)
                                .toList()));
            case REFUND ->
                UnwindContext.Taken.of(
                        new UnwindContext.RefundTaken(refunds.get(number), UnwindContext.MoneyOut.NOT_SENT));
            case RETURN -> UnwindContext.Taken.of(List.of(new UnwindContext.Stocked(shelf, held())));
            default -> UnwindContext.Taken.NOTHING;
        };
    }

    /** Whatever may be taken back, or was taken back before. */
    List<DocumentRef> documents() {
        var documents = new ArrayList<DocumentRef>();
        for (var chain : chains.values()) {
            chain.credits().forEach(one -> documents.add(new DocumentRef(DocumentKind.CREDIT_NOTE, one.number())));
            chain.deposits().forEach(one -> documents.add(new DocumentRef(DocumentKind.DEPOSIT, one.number())));
            chain.returns().forEach(one -> documents.add(new DocumentRef(DocumentKind.RETURN, one.number())));
        }
        payments.values().stream()
                .map(RefundRules.Source::document)
                .filter(one -> one.kind() == DocumentKind.PAYMENT)
                .forEach(documents::add);
        documents.addAll(writeOffs);
        refunds.keySet().forEach(one -> documents.add(new DocumentRef(DocumentKind.REFUND, one)));
        return documents;
    }

    private Optional<DocumentRef> any(List<DocumentRef> documents) {
        return documents.isEmpty() ? Optional.empty() : Optional.of(documents.get(random.nextInt(documents.size())));
    }

    private UnwindContext unwindContext(UnwindContext.Taken taken) {
        var open = new TreeMap<String, Money>();
        chains.values().forEach(chain -> chain.invoices().forEach(i -> open.put(i.number(), open(i.number()))));
        return new UnwindContext(
                List.copyOf(chains.values()),
                open,
                applied.values().stream().filter(a -> a.amount().isPositive()).toList(),
                payments.values().stream().map(this::withDiscounts).toList(),
                Optional.empty(),
                RefundRules.Bounds.NONE,
                taken);
    }

    void takeBack() {
        var chain = any();
        switch (random.nextInt(5)) {
            case 3, 4 -> any(documents()).ifPresent(one -> unwind(new Intent.TakeBack(one, random.nextInt(4) == 0)));
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
                unwind(new Intent.GiveMoneyBack(DocumentRef.order(chain.order().number())));
        }
    }

    /** Goods come back, a little at a time and in any order of doing things. */
    void goodsBack() {
        var chain = any(
                random.nextInt(3) == 0 ? Chain::anyDeparted : c -> !c.returns().isEmpty());
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
                Crediting.creditReturn(goods, chains.values(), unwindContext().open(), terms())
                        .result()
                        .ifPresent(all -> all.forEach(this::happen));
            case 4 ->
                Crediting.creditAhead(goods, chains.values(), unwindContext().open(), terms(), AHEAD)
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

    void authorise(Chain chain) {
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

    Crediting.Terms terms() {
        return new Crediting.Terms(
                () -> next("C"),
                TODAY,
                "came back",
                BigDecimal.valueOf(random.nextInt(3) * 5L),
                random.nextInt(3) == 0);
    }

    void inspect(Return goods) {
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

    void allow() {
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
}
