package app.euthyna.core.unwind;

import app.euthyna.core.billing.BillingRefusal;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Plans that mirror documents of money: credit notes posted by mistake, payments and deposits that bounced, refunds
 * that came back (section 9, 8 and 10).
 */
final class Reversing {

    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;

    Reversing(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
    }

    /** What it settled is open again; what became customer credit is taken off other invoices first. */
    Decision<Plan> credit(DocumentRef subject) {
        var credit = unwindContext.credit(subject.number());
        var source = unwindContext.source(subject).orElseThrow();
        var refusals = new ArrayList<Refusal>();
        if (credit.reversed()) {
            return Decision.refused(new BillingRefusal.AlreadyReversed("Credit note " + credit.number()));
        }
        if (source.refunded().isPositive()) {
            refusals.add(new BillingRefusal.AlreadyRefunded(subject.toString(), source.refunded()));
        }
        refusals.addAll(aheadNoLonger(credit));
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var steps = new ArrayList<Plan.Step>();
        var settlements = source.settlements();
        var freed = elsewhere(
                source,
                settlements.stream()
                        .filter(one -> !one.invoice().equals(credit.invoice()))
                        .toList());
        var own = settlements.stream()
                .filter(one -> one.invoice().equals(credit.invoice()))
                .toList();
        var discounts = RefundRules.without(source, own);
        if (freed.isRefused() || discounts.isRefused()) {
            return Decision.refused(Stream.concat(freed.refusals().stream(), discounts.refusals().stream())
                    .toList());
        }
        steps.addAll(freed.get());
        var effects = new ArrayList<Effect>(discounts.get());
        effects.add(new Effect.CreditNoteReversed(credit, unwindContext.invoice(credit.invoice()), own));
        steps.add(Planner.now(
                Plan.Kind.REVERSE_CREDIT,
                own.isEmpty()
                        ? "Its entry is reversed; %s of invoice %s can be credited again"
                                .formatted(credit.totals().gross(), credit.invoice())
                        : "Its entry is reversed; %s of invoice %s are open again"
                                .formatted(Settlement.sum(own), credit.invoice()),
                effects));
        return plan(credit.totals().gross(), steps);
    }

    /**
     * Goods whose billing ahead it had taken back are billed ahead again: only while they are neither cancelled nor
     * gone nor billed by another invoice. What an allowance took off deferred revenue needs goods with which it can
     * still be earned.
     */
    private List<Refusal> aheadNoLonger(CreditNote credit) {
        var refusals = new ArrayList<Refusal>();
        var together = new HashMap<Integer, Quantity>();
        var invoice = unwindContext.invoice(credit.invoice());
        for (var line : credit.lines()) {
            if (!line.ahead().isPositive() && line.deferred().isZero()) {
                continue;
            }
            var billed = invoice.line(line.invoiceLine());
            var flow = Chain.ofOrder(unwindContext.chains(), line.orderLine().number())
                    .flow(line.orderLine().line());
            var asked = together.merge(line.invoiceLine(), line.ahead(), Quantity::plus);
            if (asked.exceeds(flow.open())
                    || (!line.ahead().isPositive() && !billed.ahead().isPositive())) {
                refusals.add(new UnwindRefusal.AheadNoLonger(
                        credit.number(),
                        line.orderLine().number(),
                        line.orderLine().line(),
                        asked,
                        flow.open()));
            }
        }
        return refusals;
    }

    /** A payment that bounced: all that it settled is open again. */
    Decision<Plan> payment(DocumentRef subject) {
        var source = unwindContext.source(subject).orElseThrow();
        var reversed = RefundRules.reverse(source);
        if (reversed.isRefused()) {
            return Decision.refused(reversed.refusals());
        }
        var settled = source.settlements();
        return plan(
                source.amount(),
                List.of(Planner.now(
                        Plan.Kind.REVERSE_PAYMENT,
                        settled.isEmpty()
                                ? "Its entry is reversed"
                                : "Its entries are reversed; open again: " + words(settled) + discounts(source),
                        reversed.get())));
    }

    private static String discounts(RefundRules.Source source) {
        return source.discounts().stream()
                .map(one -> ", with the discount of %s on invoice %s"
                        .formatted(one.reduction().amount(), one.reduction().invoice()))
                .collect(Collectors.joining());
    }

    /** A write-off: the money comes after all. */
    Decision<Plan> writeOff(DocumentRef subject) {
        var found = unwindContext.writeOff(subject);
        return found.isEmpty()
                ? Decision.refused(new BillingRefusal.AlreadyReversed(subject.capital()))
                : plan(found.get().amount(), List.of(step(List.of(found.get()))));
    }

    /** What was written off is open again. */
    static Plan.Step step(List<Reduction> writeOffs) {
        return Planner.now(
                Plan.Kind.REVERSE_WRITE_OFF,
                writeOffs.stream()
                        .map(one -> "%s of invoice %s, written off with %s, are open again"
                                .formatted(
                                        one.amount(),
                                        one.invoice(),
                                        one.document().number()))
                        .collect(Collectors.joining("; ")),
                writeOffs.stream().map(Effect.ReductionReversed::new).toList());
    }

    /** A deposit that bounced: what it was applied to is open again. */
    Decision<Plan> deposit(DocumentRef subject) {
        var deposit = unwindContext.deposit(subject.number());
        var taken = unwindContext.taken().deposit().orElseThrow();
        var credit = unwindContext.source(subject);
        var none = Money.zero(deposit.amount().currency());
        var refunded =
                taken.refunded().plus(credit.map(RefundRules.Source::refunded).orElse(none));
        if (deposit.reversed()) {
            return Decision.refused(new BillingRefusal.AlreadyReversed("Deposit " + deposit.number()));
        }
        var refusals = new ArrayList<Refusal>();
        if (refunded.isPositive()) {
            refusals.add(new BillingRefusal.AlreadyRefunded(subject.toString(), refunded));
        }
        if (!taken.movedTo().isEmpty()) {
            refusals.add(new UnwindRefusal.DepositMoved(deposit.number(), taken.movedTo()));
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var customer = unwindContext.order(deposit.order()).order().customer();
        var steps = new ArrayList<Plan.Step>();
        var freed =
                credit.map(source -> elsewhere(source, source.settlements())).orElse(Decision.of(List.of()));
        if (freed.isRefused()) {
            return Decision.refused(freed.refusals());
        }
        steps.addAll(freed.get());
        var applied = unwindContext.applied().stream()
                .filter(one ->
                        one.deposit().equals(deposit.number()) && one.amount().isPositive())
                .map(one -> new Settlement(one.invoice(), one.amount()))
                .toList();
        if (!applied.isEmpty()) {
            steps.add(Planner.now(
                    Plan.Kind.UNAPPLY_DEPOSIT,
                    "It is unapplied; open again: " + words(applied),
                    List.of(new Effect.DepositTakenOff(deposit.number(), customer, deposit.order(), applied))));
        }
        steps.add(Planner.now(
                Plan.Kind.REVERSE_DEPOSIT,
                taken.cameFrom()
                        .map(origin -> "Its %s are unapplied with deposit %s again"
                                .formatted(deposit.amount(), origin.deposit()))
                        .orElse("Its entry is reversed: the money did not come"),
                List.of(new Effect.DepositReversed(
                        deposit.number(),
                        customer,
                        deposit.order(),
                        deposit.amount(),
                        credit.map(RefundRules.Source::amount).orElse(none),
                        taken.cameFrom()))));
        return plan(deposit.amount(), steps);
    }

    /**
     * A refund that came back. What the payment service has carried out is only taken back by the finance lead, who
     * says that the money came back.
     */
    Decision<Plan> refund(DocumentRef subject) {
        var taken = unwindContext.taken().refund().orElseThrow();
        var reversed = RefundRules.reverse(taken.refund());
        if (reversed.isRefused()) {
            return Decision.refused(reversed.refusals());
        }
        if (taken.money() == UnwindContext.MoneyOut.ON_ITS_WAY) {
            return Decision.refused(new UnwindRefusal.MoneyOnItsWay(subject.number()));
        }
        var paid = taken.money() == UnwindContext.MoneyOut.PAID;
        if (paid && unwindRequest.person().role() != Role.LEAD) {
            return Decision.refused(new CommonRefusal.NotAuthorised(
                    "take back a refund that the payment service has paid",
                    unwindRequest.person().role(),
                    List.of(Role.LEAD)));
        }
        var refund = taken.refund();
        return plan(
                refund.amount(),
                List.of(new Plan.Step(
                        Plan.Kind.REVERSE_REFUND,
                        "%s; %s"
                                .formatted(
                                        paid ? "The money came back: its entry is reversed" : "Its entry is reversed",
                                        refund.order().isEmpty()
                                                ? "%s are customer credit again".formatted(refund.amount())
                                                : "%s of %s are unapplied again"
                                                        .formatted(refund.amount(), refund.source())),
                        Plan.Timing.NOW,
                        paid ? List.of(Role.LEAD) : Planner.MAY_UNDO,
                        List.of(reversed.get()))));
    }

    /** Customer credit of a document is taken off invoices; empty where it settles none. */
    private static Decision<List<Plan.Step>> elsewhere(RefundRules.Source source, List<Settlement> settlements) {
        if (settlements.isEmpty()) {
            return Decision.of(List.of());
        }
        var freed = RefundRules.freed(source, settlements);
        return freed.isRefused()
                ? Decision.refused(freed.refusals())
                : Decision.of(List.of(Planner.now(
                        Plan.Kind.UNALLOCATE_CREDIT,
                        "Its customer credit is unallocated; open again: " + words(settlements),
                        freed.get())));
    }

    private static String words(List<Settlement> settlements) {
        return settlements.stream()
                .map(one -> "%s of invoice %s".formatted(one.amount(), one.invoice()))
                .collect(Collectors.joining(", "));
    }

    private Decision<Plan> plan(Money value, List<Plan.Step> steps) {
        return Decision.of(new Plan(unwindRequest.intent().words(), value, steps, List.of()));
    }
}
