package app.euthyna.core.proof;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.flow.Return;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.trail.DepositFact;
import app.euthyna.core.trail.PaymentFact;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Currency;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The statements over one chain, recomputed from what is stored; no running total is trusted. */
public final class ChainProof {

    private final ChainFacts facts;
    private final Currency currency;
    private final Map<String, Invoice> invoices = new LinkedHashMap<>();
    /** Payments of the chain, and credit of others that pays here: the latter's documents are whole elsewhere. */
    private final List<PaymentFact> payments = new ArrayList<>();

    private final List<PaymentFact> neighbours = new ArrayList<>();

    private ChainProof(ChainFacts facts, Currency currency) {
        this.facts = facts;
        this.currency = currency;
        facts.roots().forEach(chain -> chain.invoices().forEach(invoice -> invoices.put(invoice.number(), invoice)));
        facts.payments()
                .forEach(payment -> (payment.isNeighbourOf(facts.roots()) ? neighbours : payments).add(payment));
    }

    public static List<Statement.Result> run(ChainFacts facts, Currency currency) {
        var proof = new ChainProof(facts, currency);
        return List.of(
                proof.entriesBalance(),
                proof.totalsFollow(),
                proof.quantityKept(),
                proof.withinBounds(),
                proof.receivables(),
                proof.inventory(),
                proof.goodsOut(),
                proof.depositsAndCredit(),
                proof.deferredRevenue(),
                proof.outputVat(),
                proof.mirrors(),
                proof.wasCleared(),
                new DatesInOrder(facts, proof.invoices).result());
    }

    private Statement.Result entriesBalance() {
        var failures = new ArrayList<Statement.Failure>();
        for (var entry : facts.entries()) {
            var sum = sum(entry.lines().stream().map(EntryLine::amount));
            if (!sum.isZero()) {
                failures.add(failure(
                        entry.number(),
                        zero(),
                        sum,
                        "Entry %s is out of balance by %s.".formatted(entry.number(), sum)));
            }
        }
        return new Statement.Result(Statement.ENTRIES_BALANCE, facts.entries().size(), null, null, failures);
    }

    private Statement.Result totalsFollow() {
        var failures = new ArrayList<Statement.Failure>();
        var recomputed = new LinkedHashMap<DocumentRef, Totals>();
        facts.roots()
                .forEach(c -> recomputed.put(
                        DocumentRef.order(c.order().number()), c.order().totals()));
        invoices.values()
                .forEach(invoice -> recomputed.put(
                        new DocumentRef(DocumentKind.INVOICE, invoice.number()),
                        Totals.of(
                                invoice.lines().stream()
                                        .map(l -> new Totals.Part(l.price().net(l.quantity(), currency), l.vat()))
                                        .toList(),
                                currency)));
        Chain.allCredits(facts.roots()).forEach(credit -> {
            var net = sum(credit.lines().stream().map(CreditNote.Line::net))
                    .minus(sum(credit.discounted().stream().map(Totals.Band::taxable)));
            var vat = sum(credit.totals().bands().stream().map(Totals.Band::tax));
            recomputed.put(
                    new DocumentRef(DocumentKind.CREDIT_NOTE, credit.number()),
                    new Totals(net, vat, net.plus(vat), credit.totals().bands()));
        });
        recomputed.forEach((document, totals) -> {
            var stored = facts.storedTotals().get(document);
            var follow = ChainFacts.StoredTotals.of(totals);
            if (!follow.equals(stored)) {
                var says = stored == null ? zero() : stored.gross();
                failures.add(failure(
                        document.number(),
                        totals.gross(),
                        says,
                        "The lines of %s total net %s, VAT %s, gross %s; the document states gross %s."
                                .formatted(document, totals.net(), totals.vat(), totals.gross(), says)));
            }
        });
        return new Statement.Result(Statement.TOTALS_FOLLOW, recomputed.size(), null, null, failures);
    }

    private Statement.Result quantityKept() {
        var failures = new ArrayList<Statement.Failure>();
        long examined = 0;
        for (var chain : facts.roots()) {
            for (var flow : chain.flows()) {
                examined++;
                var measures = new HashMap<>(Map.of(
                        "cancelled",
                        flow.cancelled(),
                        "reserved",
                        flow.reserved(),
                        "staged",
                        flow.staged(),
                        "dispatched",
                        flow.dispatched(),
                        "billed",
                        flow.billed(),
                        "to ship",
                        flow.toShip(),
                        "to bill",
                        flow.toBill(),
                        "open and not reserved",
                        flow.unreserved(),
                        "open and not billed ahead",
                        flow.open()));
                measures.putAll(Map.of(
                        "returned",
                        flow.returned(),
                        "returned unbilled",
                        flow.returnedUnbilled(),
                        "credited",
                        flow.credited()));
                measures.entrySet().stream()
                        .filter(m -> m.getValue().isNegative())
                        .sorted(Map.Entry.comparingByKey())
                        .forEach(m -> failures.add(new Statement.Failure(
                                chain.order().number(),
                                BigDecimal.ZERO,
                                m.getValue().value(),
                                "Line %d of order %s has %s %s."
                                        .formatted(
                                                flow.line().no(), chain.order().number(), m.getValue(), m.getKey()))));
            }
        }
        return new Statement.Result(Statement.QUANTITY_KEPT, examined, null, null, failures);
    }

    private Statement.Result withinBounds() {
        var failures = new ArrayList<Statement.Failure>();
        long examined = 0;
        for (var chain : facts.roots()) {
            for (var flow : chain.flows()) {
                examined++;
                if (flow.returned().exceeds(flow.dispatched())) {
                    failures.add(new Statement.Failure(
                            chain.order().number(),
                            flow.dispatched().value(),
                            flow.returned().value(),
                            "On line %d of order %s, %s were returned, but only %s shipped."
                                    .formatted(
                                            flow.line().no(),
                                            chain.order().number(),
                                            flow.returned(),
                                            flow.dispatched())));
                }
                if (flow.credited().exceeds(flow.billed())) {
                    failures.add(new Statement.Failure(
                            chain.order().number(),
                            flow.billed().value(),
                            flow.credited().value(),
                            "On line %d of order %s, %s are credited, but only %s billed."
                                    .formatted(
                                            flow.line().no(), chain.order().number(), flow.credited(), flow.billed())));
                }
                var bound = flow.line().kind().isShipped()
                        ? flow.dispatched().plus(flow.ahead())
                        : flow.ordered().minus(flow.cancelled());
                if (flow.billed().exceeds(bound)) {
                    failures.add(new Statement.Failure(
                            chain.order().number(),
                            bound.value(),
                            flow.billed().value(),
                            "Line %d of order %s is billed with %s, but only %s can be."
                                    .formatted(flow.line().no(), chain.order().number(), flow.billed(), bound)));
                }
            }
        }
        return new Statement.Result(Statement.WITHIN_BOUNDS, examined, null, null, failures);
    }

    /**
     * The ledger's receivables of these documents; what their payments settle elsewhere is taken into account, and what
     * neighbours settle here is not.
     */
    private Statement.Result receivables() {
        var failures = new ArrayList<Statement.Failure>();
        var documents = zero();
        for (var invoice : invoices.values()) {
            var byNeighbours = allocations(neighbours, a -> a.invoice().equals(invoice.number()));
            var settled = allocations(payments, a -> a.invoice().equals(invoice.number()))
                    .plus(byNeighbours)
                    .plus(applied(invoice.number()::equals))
                    .plus(sum(invoice.discount().stream().map(Reduction::amount)));
            var open = (invoice.reversed() ? zero() : invoice.totals().gross()).minus(settled);
            documents = documents.plus(open).plus(byNeighbours);
            var stored = facts.storedOpen().get(invoice.number());
            if (!open.equals(stored)) {
                failures.add(failure(
                        invoice.number(),
                        open,
                        stored,
                        "Invoice %s of %s is settled with %s, but states %s open."
                                .formatted(invoice.number(), invoice.totals().gross(), settled, stored)));
            }
        }
        documents = documents
                .minus(allocations(payments, a -> !invoices.containsKey(a.invoice())))
                .minus(applied(number -> !invoices.containsKey(number)));
        return compare(Statement.RECEIVABLES, invoices.size(), documents, ledger(AccountRole.RECEIVABLES), failures);
    }

    private Money applied(Predicate<String> toInvoice) {
        return uses(
                DepositFact.Kind.APPLIED, use -> toInvoice.test(use.document().number()));
    }

    private Money uses(DepositFact.Kind kind, Predicate<DepositFact.Use> which) {
        return sum(facts.deposits().stream()
                .flatMap(d -> d.uses().stream())
                .filter(use -> use.kind() == kind)
                .filter(which)
                .map(DepositFact.Use::amount));
    }

    private Money allocations(List<PaymentFact> of, Predicate<PaymentFact.Allocation> which) {
        return sum(
                of.stream().flatMap(p -> p.allocations().stream()).filter(which).map(PaymentFact.Allocation::amount));
    }

    private Stream<CreditNote> credits() {
        return Chain.credits(facts.roots()).stream();
    }

    /** Parts of returns of the roots' lines, and of other orders' lines that came back on the same returns. */
    private Stream<Return.Part> parts() {
        return facts.roots().stream()
                .flatMap(chain -> chain.returns().stream())
                .distinct()
                .flatMap(r -> r.lines().stream())
                .flatMap(line -> line.parts().stream());
    }

    private Money outcomes(Return.Outcome.Kind kind) {
        return sum(parts().flatMap(part -> part.outcomes().stream())
                .filter(outcome -> outcome.kind() == kind)
                .map(Return.Outcome::cost));
    }

    /**
     * For a chain: what left the shelves with its dispatches, less what came back to them; and what is in inspection.
     */
    private Statement.Result inventory() {
        var departed = departed().toList();
        var cost = sum(departed.stream().map(Dispatch.Line::cost)).minus(outcomes(Return.Outcome.Kind.RESTOCK));
        var failures = new ArrayList<Statement.Failure>();
        var inspected = sum(parts().map(Return.Part::costInInspection));
        if (!inspected.equals(ledger(AccountRole.GOODS_IN_INSPECTION))) {
            failures.add(failure(
                    "",
                    inspected,
                    ledger(AccountRole.GOODS_IN_INSPECTION),
                    "Goods in inspection: %s by returns, %s in the ledger."
                            .formatted(inspected, ledger(AccountRole.GOODS_IN_INSPECTION))));
        }
        return compare(Statement.INVENTORY, departed.size(), cost.negated(), ledger(AccountRole.INVENTORY), failures);
    }

    private Stream<Dispatch.Line> departed() {
        return facts.roots().stream()
                .flatMap(chain -> chain.dispatches().stream())
                .filter(d -> d.state() == Dispatch.State.DEPARTED)
                .flatMap(d -> d.lines().stream());
    }

    private Statement.Result goodsOut() {
        var roots = facts.roots().stream().map(c -> c.order().number()).collect(Collectors.toSet());
        var unbilled = zero();
        long examined = 0;
        for (var chain : facts.roots()) {
            for (var line : chain.unbilled()) {
                examined++;
                if (!chain.flow(line.line().orderLine()).atNoCharge()) {
                    unbilled = unbilled.plus(line.cost());
                }
            }
        }
        var ofNeighbours = sum(invoices.values().stream()
                .filter(i -> !i.reversed())
                .flatMap(i -> i.lines().stream())
                .filter(l -> !roots.contains(l.orderLine().number()))
                .flatMap(l -> l.sources().stream())
                .filter(s -> !s.ahead())
                .map(Invoice.Source::cost));
        var backOfNeighbours = sum(facts.roots().stream()
                .flatMap(chain -> chain.returns().stream())
                .distinct()
                .flatMap(r -> r.lines().stream())
                .filter(l -> !roots.contains(l.orderLine().number()))
                .flatMap(l -> l.parts().stream())
                .filter(p -> p.standing() == Return.Standing.UNBILLED)
                .map(Return.Part::keptCost));
        return compare(
                Statement.GOODS_OUT,
                examined,
                unbilled.minus(ofNeighbours).minus(backOfNeighbours),
                ledger(AccountRole.GOODS_OUT),
                new ArrayList<>());
    }

    /**
     * What was billed ahead is earned when it leaves; of neighbours' lines only the invoice's own entry is in the
     * trail.
     */
    private Statement.Result deferredRevenue() {
        var roots = facts.roots().stream().map(c -> c.order().number()).collect(Collectors.toSet());
        var lines = invoices.values().stream()
                .filter(i -> !i.reversed())
                .flatMap(i -> i.lines().stream())
                .toList();
        var unearned =
                sum(lines.stream().map(l -> roots.contains(l.orderLine().number()) ? l.unearned() : l.deferred()));
        var creditedOfNeighbours = sum(credits()
                .flatMap(credit -> credit.lines().stream())
                .filter(l -> !roots.contains(l.orderLine().number()))
                .map(CreditNote.Line::deferred));
        return compare(
                Statement.DEFERRED_REVENUE,
                lines.size(),
                creditedOfNeighbours.minus(unearned),
                ledger(AccountRole.DEFERRED_REVENUE),
                new ArrayList<>());
    }

    private Statement.Result outputVat() {
        var billed = sum(invoices.values().stream()
                .filter(i -> !i.reversed())
                .map(i -> i.totals().vat()));
        var credited = sum(credits().map(c -> c.totals().vat()));
        var reduced = sum(
                invoices.values().stream().flatMap(i -> i.reductions().stream()).map(Reduction::tax));
        return compare(
                Statement.OUTPUT_VAT,
                invoices.size(),
                credited.plus(reduced).minus(billed),
                ledger(AccountRole.OUTPUT_VAT),
                new ArrayList<>());
    }

    private Statement.Result mirrors() {
        var failures = new ArrayList<Statement.Failure>();
        var byNumber = facts.entries().stream().collect(Collectors.toMap(Entry::number, e -> e));
        var seen = new HashSet<String>();
        facts.mirrors().forEach((number, original) -> {
            var undone = byNumber.get(original);
            var mirror = byNumber.get(number);
            if (undone == null
                    || !mirror.lines()
                            .equals(undone.mirror(number, mirror.date()).lines())
                    || !seen.add(original)) {
                failures.add(new Statement.Failure(
                        number,
                        BigDecimal.ONE,
                        BigDecimal.ZERO,
                        "Entry %s is not the exact reversal of entry %s.".formatted(number, original)));
            }
        });
        return new Statement.Result(Statement.MIRRORS, facts.mirrors().size(), null, null, failures);
    }

    /**
     * Deposits that hang on the trail with what of them was applied, and payments likewise; each is compared on its
     * own.
     */
    private Statement.Result depositsAndCredit() {
        var failures = new ArrayList<Statement.Failure>();
        var left = zero();
        for (var payment : payments) {
            var allocated = sum(payment.allocations().stream().map(a -> a.amount()));
            var should = payment.kept().minus(allocated);
            left = left.plus(should);
            if (!should.equals(payment.left())) {
                failures.add(failure(
                        payment.number(),
                        should,
                        payment.left(),
                        "Payment %s of %s is allocated with %s, but states %s unallocated."
                                .formatted(payment.number(), payment.amount(), allocated, payment.left())));
            }
        }
        var unapplied = zero();
        for (var deposit : facts.deposits()) {
            var should = deposit.amount().minus(sum(deposit.uses().stream().map(DepositFact.Use::amount)));
            unapplied = unapplied.plus(should);
            if (!should.equals(deposit.left())) {
                failures.add(failure(
                        deposit.number(),
                        should,
                        deposit.left(),
                        "Deposit %s of %s should have %s unapplied, but states %s."
                                .formatted(deposit.number(), deposit.amount(), should, deposit.left())));
            }
        }
        // what moved on as another deposit moved no account; the part that is not on this trail is still in the ledger
        // of this one
        var deposits = facts.deposits().stream().map(DepositFact::number).collect(Collectors.toSet());
        var movedIn = sum(facts.deposits().stream()
                .filter(d -> !d.reversed() && !d.movedFrom().isEmpty() && !deposits.contains(d.movedFrom()))
                .map(DepositFact::amount));
        var movedOut = uses(
                DepositFact.Kind.MOVED, use -> !deposits.contains(use.document().number()));
        var inLedger = unapplied.minus(movedIn).plus(movedOut);
        if (!inLedger.negated().equals(ledger(AccountRole.DEPOSITS))) {
            failures.add(failure(
                    "",
                    inLedger.negated(),
                    ledger(AccountRole.DEPOSITS),
                    "Customer deposits: %s by documents, %s in the ledger."
                            .formatted(inLedger.negated(), ledger(AccountRole.DEPOSITS))));
        }
        return compare(
                Statement.CUSTOMER_CREDIT,
                payments.size() + facts.deposits().size(),
                left.plus(inLedger).negated(),
                ledger(AccountRole.CUSTOMER_CREDIT).plus(ledger(AccountRole.DEPOSITS)),
                failures);
    }

    private Statement.Result wasCleared() {
        var failures = facts.moves().stream()
                .filter(move -> move.stateThen() != OrderState.CLEARED)
                .map(move -> new Statement.Failure(
                        move.document().number(),
                        BigDecimal.ZERO,
                        BigDecimal.ONE,
                        "%s belongs to order %s, which was %s at that time."
                                .formatted(
                                        move.document(),
                                        move.order(),
                                        move.stateThen().words())))
                .toList();
        return new Statement.Result(Statement.WAS_CLEARED, facts.moves().size(), null, null, failures);
    }

    private Money ledger(AccountRole role) {
        return sum(facts.entries().stream()
                .flatMap(e -> e.lines().stream())
                .filter(l -> l.role() == role)
                .map(EntryLine::amount));
    }

    private Statement.Result compare(
            Statement statement, long examined, Money documents, Money ledger, List<Statement.Failure> failures) {
        if (!documents.equals(ledger)) {
            failures.add(failure(
                    facts.roots().isEmpty() ? "" : facts.roots().get(0).order().number(),
                    documents,
                    ledger,
                    "%s: %s by documents, %s in the ledger.".formatted(statement.words(), documents, ledger)));
        }
        return new Statement.Result(statement, examined, documents.amount(), ledger.amount(), failures);
    }

    private static Statement.Failure failure(String document, Money expected, Money actual, String sentence) {
        return new Statement.Failure(
                document, expected.amount(), Objects.requireNonNull(actual).amount(), sentence);
    }

    private Money sum(Stream<Money> amounts) {
        return amounts.reduce(zero(), Money::plus);
    }

    private Money zero() {
        return Money.zero(currency);
    }
}
