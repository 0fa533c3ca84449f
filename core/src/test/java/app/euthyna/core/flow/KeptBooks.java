package app.euthyna.core.flow;

import static app.euthyna.core.Given.EUR;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.line;
import static app.euthyna.core.Given.order;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Posting;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.unwind.UnwindContext;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.Predicate;

/** Chains with the ledger that follows from what happens to them, and what their documents hold beside it. */
abstract class KeptBooks {

    private static final Money ZERO = Money.zero(EUR);

    private static final EffectHandlers<Documents, Boolean> DOCUMENTS = EffectHandlers.<Documents>deeds()
            .on(Effect.StockReceived.class, Documents::stockReceived)
            .on(Effect.StockCounted.class, Documents::stockCounted)
            .on(Effect.StockReserved.class, Documents::stockReserved)
            .on(Effect.ReservationReleased.class, Documents::reservationReleased)
            .on(Effect.DispatchDeparted.class, Documents::dispatchDeparted)
            .on(Effect.DispatchReversed.class, Documents::dispatchReversed)
            .on(Effect.ReturnInspected.class, Documents::returnInspected)
            .on(Effect.InspectionReversed.class, Documents::inspectionReversed)
            .on(Effect.CreditNotePosted.class, Documents::creditNotePosted)
            .on(Effect.CreditNoteReversed.class, Documents::creditNoteReversed)
            .on(Effect.PaymentReceived.class, Documents::paymentReceived)
            .on(Effect.CreditAllocated.class, Documents::creditAllocated)
            .on(Effect.AllocationTakenOff.class, Documents::allocationTakenOff)
            .on(Effect.PaymentReversed.class, Documents::paymentReversed)
            .on(Effect.DepositReceived.class, Documents::depositReceived)
            .on(Effect.DepositApplied.class, Documents::depositApplied)
            .on(Effect.DepositTakenOff.class, Documents::depositTakenOff)
            .on(Effect.DepositCredited.class, Documents::depositCredited)
            .on(Effect.DepositMoved.class, Documents::depositMoved)
            .on(Effect.DepositReversed.class, Documents::depositReversed)
            .on(Effect.RefundGiven.class, Documents::refundGiven)
            .on(Effect.RefundReversed.class, Documents::refundReversed)
            .othersDoNotConcernIt();

    Random random;
    final String name;
    final Map<String, Integer> happened;
    final Map<AccountRole, Money> ledger = new EnumMap<>(AccountRole.class);
    final Map<DocumentRef, List<Posting>> toMirror = new HashMap<>();
    final Map<String, UnwindContext.Applied> applied = new LinkedHashMap<>();
    final Postings postings = new Postings(item -> "", customer -> "");
    final List<String> told = new ArrayList<>();
    final Map<String, Chain> chains = new LinkedHashMap<>();
    final Map<String, Money> settled = new TreeMap<>();
    final Map<String, RefundRules.Source> payments = new LinkedHashMap<>();
    final Map<String, RefundRules.Refund> refunds = new LinkedHashMap<>();
    /** By deposits that others were moved to. */
    final Map<String, Deposit.Origin> origins = new LinkedHashMap<>();

    final Map<String, Money> refundedDeposits = new LinkedHashMap<>();
    Money bank = eur("0.00");
    Money adjusted = eur("0.00");
    Shelf shelf = new Shelf("S", "A", Quantity.ZERO, Quantity.ZERO, eur("0.00"));
    int number;

    KeptBooks(Random random, String name, Map<String, Integer> happened) {
        this.random = random;
        this.name = name;
        this.happened = happened;
    }

    Map<AccountRole, Money> balances() {
        var balances = new EnumMap<AccountRole, Money>(AccountRole.class);
        for (var role : AccountRole.values()) {
            balances.put(role, ledger.getOrDefault(role, eur("0.00")));
        }
        return balances;
    }

    List<LineFlow> flows() {
        return chains.values().stream().flatMap(chain -> chain.flows().stream()).toList();
    }

    String next(String prefix) {
        return prefix + ++number;
    }

    Chain any() {
        return List.copyOf(chains.values()).get(random.nextInt(2));
    }

    /** One of which that is true, where one is: histories are short. */
    Chain any(Predicate<Chain> which) {
        var fitting = chains.values().stream().filter(which).toList();
        return fitting.isEmpty() ? any() : fitting.get(random.nextInt(fitting.size()));
    }

    Money amount(int cents) {
        return eur(BigDecimal.valueOf(1 + random.nextInt(cents), 2).toPlainString());
    }

    Map<String, OpenInvoice> invoices() {
        var invoices = new LinkedHashMap<String, OpenInvoice>();
        chains.values()
                .forEach(chain -> chain.inForce()
                        .forEach(i -> invoices.put(
                                i.number(),
                                new OpenInvoice(i.number(), "C", i.totals().gross(), open(i.number())))));
        return invoices;
    }

    Money open(String invoice) {
        return (invoice(invoice).reversed()
                        ? eur("0.00")
                        : invoice(invoice).totals().gross())
                .minus(settled.getOrDefault(invoice, eur("0.00")));
    }

    Invoice invoice(String number) {
        return chains.values().stream()
                .flatMap(c -> c.invoices().stream())
                .filter(i -> i.number().equals(number))
                .findFirst()
                .orElseThrow();
    }

    void happen(Effect effect) {
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

    void mirror(Postings.Mirrored mirrored) {
        toMirror.getOrDefault(mirrored.document(), new ArrayList<>()).removeIf(posting -> {
            var undone = mirrored.event().isEmpty() || posting.event().equals(mirrored.event());
            if (undone) {
                post(posting, true);
            }
            return undone;
        });
    }

    void post(Posting posting, boolean mirrored) {
        var sum = posting.lines().stream().map(Posting.Line::amount).reduce(eur("0.00"), Money::plus);
        assertThat(sum.isZero()).as("%s: %s balances", name, posting).isTrue();
        posting.lines()
                .forEach(line ->
                        ledger.merge(line.role(), mirrored ? line.amount().negated() : line.amount(), Money::plus));
    }

    /** What shelves, payments and the bank hold, told by the effects and not by the ledger. */
    final class Documents {

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
            restocked(effect.results());
        }

        private void inspectionReversed(Effect.InspectionReversed effect) {
            restocked(effect.results());
        }

        private void restocked(List<Effect.InspectionResult> results) {
            results.stream()
                    .map(Effect.InspectionResult::outcome)
                    .filter(o -> o.kind() == Return.Outcome.Kind.RESTOCK)
                    .forEach(o -> shelf = shelf.receive(o.quantity(), o.cost()));
        }

        private void creditNotePosted(Effect.CreditNotePosted effect) {
            var credit = effect.credit();
            source(DocumentKind.CREDIT_NOTE, credit.number(), credit.totals().gross());
            if (effect.settled().isPositive()) {
                settle(credit.number(), List.of(new Settlement(credit.invoice(), effect.settled())), false);
            }
        }

        private void creditNoteReversed(Effect.CreditNoteReversed effect) {
            settle(effect.credit().number(), effect.settlements(), true);
            isNoMore(effect.credit().number());
        }

        private void isNoMore(String number) {
            var was = payments.get(number);
            payments.put(
                    number,
                    new RefundRules.Source(
                            was.document(), "C", was.amount(), eur("0.00"), was.refunded(), true, was.settled()));
        }

        private void depositMoved(Effect.DepositMoved effect) {
            origins.put(effect.toDeposit(), new Deposit.Origin(effect.deposit(), effect.order()));
        }

        private void depositReversed(Effect.DepositReversed effect) {
            if (effect.cameFrom().isEmpty()) {
                bank = bank.minus(effect.amount());
            }
            if (payments.containsKey(effect.deposit())) {
                isNoMore(effect.deposit());
            }
            origins.remove(effect.deposit());
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
            isNoMore(effect.payment());
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
            refunded(effect.source(), effect.order(), effect.amount());
            refunds.put(
                    effect.refund(),
                    new RefundRules.Refund(
                            effect.refund(), "C", effect.source(), effect.order(), effect.amount(), false));
        }

        private void refundReversed(Effect.RefundReversed effect) {
            refunded(effect.source(), effect.order(), effect.amount().negated());
            refunds.remove(effect.refund());
        }

        private void refunded(DocumentRef source, String order, Money amount) {
            bank = bank.minus(amount);
            if (order.isEmpty()) {
                var was = payments.get(source.number());
                payments.put(
                        source.number(),
                        new RefundRules.Source(
                                was.document(),
                                "C",
                                was.amount(),
                                was.left().minus(amount),
                                was.refunded().plus(amount),
                                false,
                                was.settled()));
            } else {
                refundedDeposits.merge(source.number(), amount, Money::plus);
            }
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

    /** Every account and every quantity, against sums over the documents that are kept here apart. */
    void check() {
        var unbilled = unbilledCost();
        goodsAgree(unbilled);
        var invoices = invoicesInForce();
        var gross = invoices.stream().map(i -> i.totals().gross()).reduce(ZERO, Money::plus);
        salesAgree(invoices, gross);
        moneyAgrees(gross);
        chains.values().forEach(this::noMoreComesBackThanLeft);
        noQuantityIsNegative();
        assertThat(settled)
                .allSatisfy((invoice, amount) -> assertThat(open(invoice).isNegative())
                        .as("%s: %s is settled once: %s", name, invoice, told)
                        .isFalse());
        if (chains.values().stream()
                .flatMap(c -> c.flows().stream())
                .allMatch(flow -> flow.toBill().isZero())) {
            assertThat(unbilled)
                    .as("%s: all is billed, so no cost is left behind: %s", name, told)
                    .isEqualTo(ZERO);
        }
    }

    private Money unbilledCost() {
        return chains.values().stream()
                .flatMap(c -> c.unbilled().stream())
                .map(Chain.Unbilled::cost)
                .reduce(ZERO, Money::plus);
    }

    /**
     * What lies in stock, is with customers unbilled, is being inspected, was written off; the rest is cost of sales.
     */
    private void goodsAgree(Money unbilled) {
        var parts = chains.values().stream()
                .flatMap(c -> c.returns().stream())
                .distinct()
                .flatMap(r -> r.lines().stream())
                .flatMap(l -> l.parts().stream())
                .toList();
        var inspection = parts.stream().map(Return.Part::costInInspection).reduce(ZERO, Money::plus);
        var scrapped = parts.stream()
                .flatMap(p -> p.outcomes().stream())
                .filter(o -> o.kind() == Return.Outcome.Kind.SCRAP)
                .map(Return.Outcome::cost)
                .reduce(ZERO, Money::plus);
        same("goods in inspection", AccountRole.GOODS_IN_INSPECTION, inspection);
        same("write-off", AccountRole.WRITE_OFF, scrapped);
        same("goods out", AccountRole.GOODS_OUT, unbilled);
        same("inventory", AccountRole.INVENTORY, shelf.value());
        same(
                "cost of sales",
                AccountRole.COGS,
                adjusted.minus(shelf.value()).minus(unbilled).minus(inspection).minus(scrapped));
    }

    /** Revenue is what was billed and has left, less what was credited of it; the rest of it is deferred. */
    private void salesAgree(Collection<Invoice> invoices, Money gross) {
        var unearned = invoices.stream().map(this::unearned).reduce(ZERO, Money::plus);
        var net = invoices.stream().map(i -> i.totals().net()).reduce(ZERO, Money::plus);
        var credits = Chain.credits(chains.values());
        var creditedNet = credits.stream().map(c -> c.totals().net()).reduce(ZERO, Money::plus);
        var creditedVat = credits.stream().map(c -> c.totals().vat()).reduce(ZERO, Money::plus);
        var creditedAhead = credits.stream()
                .flatMap(c -> c.lines().stream())
                .map(CreditNote.Line::deferred)
                .reduce(ZERO, Money::plus);
        same("sales returns", AccountRole.SALES_RETURNS, creditedNet.minus(creditedAhead));
        same(
                "revenue",
                AccountRole.REVENUE,
                net.minus(creditedAhead).minus(unearned).negated());
        same("deferred revenue", AccountRole.DEFERRED_REVENUE, unearned.negated());
        same("VAT", AccountRole.OUTPUT_VAT, creditedVat.minus(gross.minus(net)));
    }

    private Collection<Invoice> invoicesInForce() {
        var invoices = new LinkedHashMap<String, Invoice>();
        chains.values().forEach(chain -> chain.inForce().forEach(i -> invoices.putIfAbsent(i.number(), i)));
        return invoices.values();
    }

    /** Of an invoice, what has not left yet; each line is read in the chain of its own order. */
    private Money unearned(Invoice invoice) {
        var unearned = ZERO;
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
                        .isEqualTo(ZERO);
            }
        }
        return unearned;
    }

    private void moneyAgrees(Money gross) {
        same("bank", AccountRole.BANK, bank);
        same(
                "receivables",
                AccountRole.RECEIVABLES,
                gross.minus(settled.values().stream().reduce(ZERO, Money::plus)));
        same(
                "deposits",
                AccountRole.DEPOSITS,
                chains.values().stream()
                        .map(Chain::unappliedDeposits)
                        .reduce(ZERO, Money::plus)
                        .negated());
        same(
                "customer credit",
                AccountRole.CUSTOMER_CREDIT,
                payments.values().stream()
                        .map(RefundRules.Source::left)
                        .reduce(ZERO, Money::plus)
                        .negated());
    }

    private void noQuantityIsNegative() {
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
    }

    /** Neither in quantity nor in value, of any dispatch line. */
    void noMoreComesBackThanLeft(Chain chain) {
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

    void same(String what, AccountRole role, Money documents) {
        assertThat(ledger.getOrDefault(role, Money.zero(EUR)))
                .as("%s: %s after %s", name, what, told)
                .isEqualTo(documents);
    }
}
