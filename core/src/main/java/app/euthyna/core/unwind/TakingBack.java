package app.euthyna.core.unwind;

import app.euthyna.core.billing.BillingRefusal;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.BilledAheadDelivery;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Plans that mirror what was posted by mistake: invoices, and dispatches whose goods never left (section 9, 2, 4 and
 * 5).
 */
final class TakingBack {

    private static final Plan.Question MONEY = new Plan.Question(
            "money",
            "Money allocated to it",
            List.of(
                    new Plan.Answer("customer-credit", "Move it to customer credit"),
                    new Plan.Answer("refund", "Refund it")));

    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;

    TakingBack(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
    }

    /** Goods of a dispatch line on an invoice line: all its sources of them, undone ones taken off. */
    private record Bill(
            Invoice invoice,
            Invoice.Line line,
            LineRef dispatchLine,
            Quantity quantity,
            Money cost,
            Money earned,
            boolean ahead) {

        BilledAheadDelivery covered() {
            return new BilledAheadDelivery(
                    invoice.customer(),
                    new LineRef(invoice.number(), line.no()),
                    line.item(),
                    new Invoice.Source(dispatchLine, quantity, cost, ahead, earned),
                    invoice.orders());
        }
    }

    private static List<Bill> bills(Invoice invoice) {
        var bills = new LinkedHashMap<List<Object>, Bill>();
        for (var line : invoice.lines()) {
            for (var source : line.sources()) {
                bills.merge(
                        List.of(line.no(), source.dispatchLine(), source.ahead()),
                        new Bill(
                                invoice,
                                line,
                                source.dispatchLine(),
                                source.quantity(),
                                source.cost(),
                                source.earned(),
                                source.ahead()),
                        (a, b) -> new Bill(
                                invoice,
                                line,
                                a.dispatchLine(),
                                a.quantity().plus(b.quantity()),
                                a.cost().plus(b.cost()),
                                a.earned().plus(b.earned()),
                                a.ahead()));
            }
        }
        return bills.values().stream()
                .filter(bill -> bill.quantity().isPositive())
                .toList();
    }

    Decision<Plan> invoice(Invoice invoice, boolean withDispatch) {
        if (invoice.reversed()) {
            return Decision.refused(new BillingRefusal.AlreadyReversed("Invoice " + invoice.number()));
        }
        var bills = bills(invoice);
        var dispatches = withDispatch
                ? new LinkedHashSet<>(
                        bills.stream().map(b -> b.dispatchLine().number()).toList())
                : new LinkedHashSet<String>();
        var refusals = refusals(invoice, dispatches);
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var taken = sources(invoice);
        var refunds = unwindRequest.choices().refunds() && !taken.isEmpty();
        var steps = new ArrayList<Plan.Step>();
        if (!invoice.writtenOff().isEmpty()) {
            steps.add(Reversing.step(invoice.writtenOff()));
        }
        steps.addAll(moneySteps(invoice, taken));
        steps.add(reversal(invoice, bills));
        // money that waits for someone's word does not keep the goods from going back to the shelf
        var at = steps.size();
        var after = unwindContext.chains();
        for (var step : steps) {
            after = after.stream().map(chain -> chain.after(step.effects())).toList();
        }
        if (refunds) {
            steps.add(Refunding.step(
                    taken.stream()
                            .map(source -> new Effect.RefundGiven(
                                    unwindRequest.numbers().apply(DocumentKind.REFUND),
                                    source.customer(),
                                    source.document(),
                                    "",
                                    source.settled().get(invoice.number())))
                            .toList(),
                    unwindContext,
                    unwindRequest));
        }
        for (var number : dispatches) {
            var chain = after.stream()
                    .filter(c ->
                            c.dispatches().stream().anyMatch(d -> d.number().equals(number)))
                    .findFirst()
                    .orElseThrow();
            steps.add(at++, reverse(chain, number));
        }
        return Decision.of(new Plan(
                unwindRequest.intent().words(), invoice.totals().gross(), steps, questions(bills, !taken.isEmpty())));
    }

    private List<Refusal> refusals(Invoice invoice, Set<String> dispatches) {
        var refusals = new ArrayList<Refusal>();
        var credits = Chain.creditsFor(unwindContext.chains(), invoice.number()).stream()
                .map(CreditNote::number)
                .toList();
        if (!credits.isEmpty()) {
            refusals.add(new UnwindRefusal.AlreadyCredited(invoice.number(), credits));
        }
        returnsOf(invoice).ifPresent(refusals::add);
        for (var number : dispatches) {
            stays(number, invoice.number()).ifPresent(refusals::add);
        }
        return refusals;
    }

    /** What settles the invoice is freed from it. */
    private List<Plan.Step> moneySteps(Invoice invoice, List<RefundRules.Source> taken) {
        var steps = new ArrayList<Plan.Step>();
        if (!taken.isEmpty()) {
            steps.add(Planner.now(
                    Plan.Kind.UNALLOCATE_PAYMENT,
                    "%s %s unallocated and kept as customer credit%s"
                            .formatted(
                                    taken.stream()
                                            .map(source -> "%s of %s"
                                                    .formatted(
                                                            source.settled().get(invoice.number()), source.document()))
                                            .collect(Collectors.joining(", ")),
                                    taken.size() == 1 ? "is" : "are",
                                    invoice.discount()
                                            .map(discount ->
                                                    "; the discount of %s is taken back".formatted(discount.amount()))
                                            .orElse("")),
                    taken.stream()
                            .flatMap(source -> RefundRules.freed(source, settled(source, invoice)).get().stream())
                            .toList()));
        }
        var applied = unwindContext.applied().stream()
                .filter(a -> a.invoice().equals(invoice.number()) && a.amount().isPositive())
                .toList();
        if (!applied.isEmpty()) {
            steps.add(Planner.now(
                    Plan.Kind.UNAPPLY_DEPOSIT,
                    "%s unapplied from it"
                            .formatted(applied.stream()
                                    .map(a -> "%s of deposit %s".formatted(a.amount(), a.deposit()))
                                    .collect(Collectors.joining(", "))),
                    applied.stream()
                            .map(a -> new Effect.DepositTakenOff(
                                    a.deposit(),
                                    a.customer(),
                                    a.order(),
                                    List.of(new Settlement(invoice.number(), a.amount()))))
                            .toList()));
        }
        return steps;
    }

    private static List<Plan.Question> questions(List<Bill> bills, boolean money) {
        var questions = new ArrayList<Plan.Question>();
        var brought =
                bills.stream().map(b -> b.dispatchLine().number()).distinct().toList();
        if (!brought.isEmpty()) {
            questions.add(new Plan.Question(
                    "dispatch",
                    "Dispatch %s".formatted(String.join(", ", brought)),
                    List.of(
                            new Plan.Answer("no", "Keep it: only the invoice was wrong"),
                            new Plan.Answer("yes", "Take it back: the goods never departed"))));
        }
        if (money) {
            questions.add(MONEY);
        }
        return questions;
    }

    private static Plan.Step reversal(Invoice invoice, List<Bill> bills) {
        var reversal = new ArrayList<Effect>();
        var ahead = new LinkedHashMap<String, List<BilledAheadDelivery>>();
        bills.stream()
                .filter(Bill::ahead)
                .forEach(bill -> ahead.computeIfAbsent(bill.dispatchLine().number(), d -> new ArrayList<>())
                        .add(bill.covered()));
        ahead.forEach((dispatch, covered) -> reversal.add(new Effect.RevenueDeferredAgain(dispatch, covered)));
        reversal.add(new Effect.InvoiceReversed(invoice));
        var orders = invoice.lines().stream()
                .map(line -> line.orderLine().number())
                .distinct()
                .toList();
        return Planner.now(
                Plan.Kind.REVERSE_INVOICE,
                "Its entry is reversed; order %s is to be billed again".formatted(String.join(", ", orders)),
                reversal);
    }

    /** The money that settles the invoice, deposits and write-offs apart. */
    private List<RefundRules.Source> sources(Invoice invoice) {
        return unwindContext.sources().stream()
                .filter(source -> source.document().kind() != DocumentKind.WRITE_OFF
                        && !settled(source, invoice).isEmpty())
                .toList();
    }

    private static List<Settlement> settled(RefundRules.Source source, Invoice invoice) {
        return source.settlements().stream()
                .filter(one -> one.invoice().equals(invoice.number()))
                .toList();
    }

    /**
     * A return that stands against the invoice: authorised from it and not withdrawn, or with goods here that it had
     * billed.
     */
    private Optional<Refusal> returnsOf(Invoice invoice) {
        return unwindContext.chains().stream()
                .flatMap(c -> c.returns().stream())
                .filter(goods -> goods.lines().stream()
                        .anyMatch(line -> (line.invoiceLine()
                                                .filter(ref -> ref.number().equals(invoice.number()))
                                                .isPresent()
                                        && (!goods.withdrawn()
                                                || line.returned().isPositive()))
                                || line.parts().stream()
                                        .anyMatch(part -> part.kept().isPositive()
                                                && part.invoiceLine()
                                                        .filter(ref ->
                                                                ref.number().equals(invoice.number()))
                                                        .isPresent())))
                .findFirst()
                .map(goods -> new UnwindRefusal.AlreadyReturned(
                        "Invoice " + invoice.number(), goods.number(), goods.anyReceived()));
    }

    /** Why a departed dispatch can't be mirrored, apart from an invoice that is taken back with it. */
    private Optional<Refusal> stays(String number, String butInvoice) {
        var chain = unwindContext.dispatch(number);
        var goods = chain.returns().stream()
                .filter(r -> r.lines().stream()
                        .anyMatch(line -> line.dispatchLine().number().equals(number)
                                && (!r.withdrawn() || line.returned().isPositive())))
                .findFirst();
        if (goods.isPresent()) {
            return Optional.of(new UnwindRefusal.AlreadyReturned(
                    "Dispatch " + number, goods.get().number(), goods.get().anyReceived()));
        }
        var credited = credited(chain, number);
        if (credited.isPresent()) {
            return credited;
        }
        return chain.inForce()
                .filter(i -> !i.number().equals(butInvoice))
                .filter(i -> bills(i).stream()
                        .anyMatch(b -> b.dispatchLine().number().equals(number) && !b.ahead()))
                .findFirst()
                .map(i -> new UnwindRefusal.DispatchBilled(number, i.number()));
    }

    /**
     * Of an invoice line that was billed ahead, more is credited than would have left without the dispatch: taken back
     * to the shelf, those goods would be shipped again for nothing.
     */
    private static Optional<Refusal> credited(Chain chain, String number) {
        for (var bill : chain.inForce()
                .flatMap(invoice -> bills(invoice).stream())
                .filter(bill -> bill.ahead() && bill.dispatchLine().number().equals(number))
                .toList()) {
            var credits = Chain.creditsFor(List.of(chain), bill.invoice().number()).stream()
                    .filter(credit -> credited(credit, bill).isPositive())
                    .toList();
            var left = bill.line().billed().minus(bill.line().ahead()).minus(bill.quantity());
            if (Quantity.sum(credits.stream()
                            .map(credit -> credited(credit, bill))
                            .toList())
                    .exceeds(left)) {
                return Optional.of(new UnwindRefusal.AlreadyCredited(
                        bill.invoice().number(),
                        credits.stream().map(CreditNote::number).toList()));
            }
        }
        return Optional.empty();
    }

    private static Quantity credited(CreditNote credit, Bill bill) {
        return Quantity.sum(credit.lines().stream()
                .filter(line -> line.invoiceLine() == bill.line().no())
                .map(CreditNote.Line::credited)
                .toList());
    }

    Decision<Plan> dispatch(String number) {
        var chain = unwindContext.dispatch(number);
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
        var order = chain.order();
        var value = dispatch.lines().stream()
                .filter(line -> order.hasLine(line.orderLine()))
                .map(line -> order.line(line.orderLine()).net(line.quantity(), order.currency()))
                .reduce(Money.zero(order.currency()), Money::plus);
        return switch (dispatch.state()) {
            case VOIDED, REVERSED -> Decision.refused(new BillingRefusal.AlreadyReversed("Dispatch " + number));
            case STAGED ->
                Decision.of(new Plan(
                        unwindRequest.intent().words(),
                        value,
                        List.of(Planner.now(
                                Plan.Kind.VOID_STAGED,
                                "Dispatch %s is voided: its goods go back to stock and stay reserved".formatted(number),
                                List.of(new Effect.DispatchVoided(dispatch.withState(Dispatch.State.VOIDED))))),
                        List.of()));
            case DEPARTED ->
                stays(number, "")
                        .<Decision<Plan>>map(Decision::refused)
                        .orElseGet(() -> Decision.of(new Plan(
                                unwindRequest.intent().words(), value, List.of(reverse(chain, number)), List.of())));
        };
    }

    /** Mirrors a departure; goods that were billed ahead are so again. */
    private Plan.Step reverse(Chain chain, String number) {
        var dispatch = chain.dispatches().stream()
                .filter(d -> d.number().equals(number))
                .findFirst()
                .orElseThrow();
        var order = chain.order();
        var uncovered = chain.inForce()
                .flatMap(invoice -> bills(invoice).stream())
                .filter(bill -> bill.ahead() && bill.dispatchLine().number().equals(number))
                .map(Bill::covered)
                .toList();
        var held = dispatch.lines().stream()
                .filter(line -> order.hasLine(line.orderLine())
                        && order.line(line.orderLine()).item().equals(line.item())
                        && order.siteOf(order.line(line.orderLine())).equals(dispatch.site()))
                .toList();
        return Planner.now(
                Plan.Kind.REVERSE_DISPATCH,
                "Dispatch %s never departed: its entries are reversed, its goods are back in stock and reserved for the order"
                        .formatted(number),
                List.of(new Effect.DispatchReversed(dispatch.withState(Dispatch.State.REVERSED), held, uncovered)));
    }
}
