package app.euthyna.core.flow;

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
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.unwind.UnwindContext;
import java.math.BigDecimal;
import java.util.ArrayList;
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
            .on(Effect.InvoiceReduced.class, Documents::invoiceReduced)
            .on(Effect.ReductionReversed.class, Documents::reductionReversed)
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

    /** What is settled without money now, and all write-offs there ever were. */
    final List<Reduction> reductions = new ArrayList<>();

    final List<DocumentRef> writeOffs = new ArrayList<>();
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

    /** Money with the discounts that were taken with it. */
    RefundRules.Source withDiscounts(RefundRules.Source source) {
        return new RefundRules.Source(
                source.document(),
                source.customer(),
                source.amount(),
                source.left(),
                source.refunded(),
                source.reversed(),
                source.settled(),
                reductions.stream()
                        .filter(one -> one.isDiscount() && one.document().equals(source.document()))
                        .map(one -> new RefundRules.Discount(
                                one,
                                Chain.creditsFor(chains.values(), one.invoice()).stream()
                                        .filter(credit -> !credit.discounted().isEmpty())
                                        .map(CreditNote::number)
                                        .toList()))
                        .toList());
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

        private void invoiceReduced(Effect.InvoiceReduced effect) {
            var reduction = effect.reduction();
            reductions.add(reduction);
            settled.merge(reduction.invoice(), reduction.amount(), Money::plus);
            if (!reduction.isDiscount()) {
                writeOffs.add(reduction.document());
            }
        }

        private void reductionReversed(Effect.ReductionReversed effect) {
            assertThat(reductions.remove(effect.reduction()))
                    .as("%s: %s is taken back once: %s", name, effect, told)
                    .isTrue();
            settled.merge(
                    effect.reduction().invoice(), effect.reduction().amount().negated(), Money::plus);
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
}
