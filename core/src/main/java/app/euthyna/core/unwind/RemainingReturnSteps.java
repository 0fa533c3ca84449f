package app.euthyna.core.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Crediting;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Role;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * What follows a return that was authorised: the goods come, they are inspected, what was billed of them is credited,
 * and the money goes back where that was chosen. Before the goods are there it says what to expect if all comes back
 * sound; afterwards what is to be done with what really came.
 */
final class RemainingReturnSteps {

    private static final List<Role> MAY_HANDLE = List.of(Role.WAREHOUSE);

    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;
    private final Placeholders later = new Placeholders();
    /** What invoices have open, as the steps leave it. */
    private final Map<String, Money> open;

    RemainingReturnSteps(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
        this.open = new HashMap<>(unwindContext.open());
    }

    /**
     * Takes back what was written off of the invoices that billed goods of a return: they can't be credited before
     * (section 16).
     *
     * @return the chains as they are then
     */
    List<Chain> reverseWriteOffs(Return goods, List<Chain> chains, List<Plan.Step> steps) {
        var dispatchLines =
                goods.lines().stream().map(Return.Line::dispatchLine).collect(Collectors.toSet());
        var writeOffs = chains.stream()
                .flatMap(Chain::inForce)
                .filter(invoice -> invoice.lines().stream()
                        .flatMap(line -> line.sources().stream())
                        .anyMatch(source -> dispatchLines.contains(source.dispatchLine())))
                .flatMap(invoice -> invoice.writtenOff().stream())
                .distinct()
                .toList();
        if (writeOffs.isEmpty()) {
            return chains;
        }
        var step = Reversing.step(writeOffs);
        steps.add(step);
        writeOffs.forEach(one -> open.merge(one.invoice(), one.amount(), Money::plus));
        return after(chains, step.effects());
    }

    /** The steps that are left of a return, the first of which may be possible now. */
    List<Plan.Step> expected(Return authorised, List<Chain> given) {
        var steps = new ArrayList<Plan.Step>();
        var chains = given;
        var goods = authorised;
        if (goods.expectsMore()) {
            var came = Returning.receive(goods, List.of(), chains, unwindRequest.on())
                    .get();
            steps.add(new Plan.Step(
                    Plan.Kind.RECEIVE_GOODS,
                    "The goods are received into inspection",
                    Plan.Timing.WAITS,
                    MAY_HANDLE,
                    List.of(came)));
            chains = after(chains, List.of(came));
            goods = Chain.returnOf(chains, goods.number());
        }
        if (goods.inInspection()) {
            var results = goods.lines().stream()
                    .filter(line -> line.inInspection().isPositive())
                    .map(line -> new Returning.InspectionLine(
                            line.no(), Return.Outcome.Kind.RESTOCK, line.inInspection(), line.site(), ""))
                    .toList();
            var inspected = Returning.inspect(goods, results, Chain.credits(chains), unwindRequest.on())
                    .get();
            steps.add(new Plan.Step(
                    Plan.Kind.INSPECT_GOODS,
                    "They are inspected: restocked, scrapped or sent back",
                    Plan.Timing.SOMEBODY_ELSE,
                    MAY_HANDLE,
                    List.of(inspected)));
            chains = after(chains, List.of(inspected));
            goods = Chain.returnOf(chains, goods.number());
        }
        if (!Crediting.due(goods, chains).isEmpty()) {
            chains = reverseWriteOffs(goods, chains, steps);
        }
        var credited = credit(goods, chains, steps);
        if (unwindRequest.choices().refunds()) {
            refund(goods, chains, credited, steps);
        }
        return steps;
    }

    /** A document that can't be made yet gets its number when it is: series without gaps lend none. */
    private String number(DocumentKind kind, List<Plan.Step> before) {
        return before.stream().allMatch(step -> step.timing() == Plan.Timing.NOW)
                ? unwindRequest.numbers().apply(kind)
                : later.apply(kind);
    }

    /** Credits what was billed and is here, if anything is. */
    private List<Effect.CreditNotePosted> credit(Return goods, List<Chain> chains, List<Plan.Step> steps) {
        var terms = new Crediting.Terms(
                () -> number(DocumentKind.CREDIT_NOTE, steps),
                unwindRequest.on(),
                unwindRequest.reason(),
                unwindRequest.choices().restockingPercent(),
                unwindRequest.choices().freight());
        var decided = Crediting.creditReturn(goods, chains, open, terms);
        if (decided.isRefused()) {
            return List.of();
        }
        var sentence = decided.get().stream()
                .map(c -> "%s of invoice %s"
                        .formatted(c.credit().totals().gross(), c.credit().invoice()))
                .collect(Collectors.joining(", "));
        var fee = decided.get().stream()
                .flatMap(c -> c.credit().lines().stream())
                .map(CreditNote.Line::fee)
                .reduce(Money::plus)
                .orElseThrow();
        steps.add(Planner.now(
                Plan.Kind.CREDIT,
                "%s %s credited%s"
                        .formatted(
                                sentence,
                                decided.get().size() == 1 ? "is" : "are",
                                fee.isPositive() ? ", less a restocking fee of %s net".formatted(fee) : ""),
                decided.get()));
        return decided.get();
    }

    /**
     * Refunds what the return's credit notes leave beyond the open invoice: those just made, and those made before and
     * not used.
     */
    private void refund(
            Return goods, List<Chain> chains, List<Effect.CreditNotePosted> credited, List<Plan.Step> steps) {
        var left = new LinkedHashMap<DocumentRef, Money>();
        var refunds = new ArrayList<Effect.RefundGiven>();
        Chain.credits(chains).stream()
                .filter(c -> c.isFor(goods.number()))
                .forEach(c -> unwindContext
                        .source(new DocumentRef(DocumentKind.CREDIT_NOTE, c.number()))
                        .ifPresent(source -> left.put(source.document(), source.left())));
        left.forEach((document, amount) -> {
            if (amount.isPositive()) {
                refunds.add(new Effect.RefundGiven(
                        number(DocumentKind.REFUND, steps), goods.customer(), document, "", amount));
            }
        });
        for (var credit : credited) {
            var rest = credit.credit().totals().gross().minus(credit.settled());
            if (rest.isPositive()) {
                refunds.add(new Effect.RefundGiven(
                        number(DocumentKind.REFUND, steps),
                        goods.customer(),
                        new DocumentRef(
                                DocumentKind.CREDIT_NOTE, credit.credit().number()),
                        "",
                        rest));
            }
        }
        if (!refunds.isEmpty()) {
            steps.add(Refunding.step(refunds, unwindContext, unwindRequest));
        }
    }

    private static List<Chain> after(List<Chain> chains, List<Effect> effects) {
        return chains.stream().map(chain -> chain.after(effects)).toList();
    }
}
