package app.euthyna.core.unwind;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;

/**
 * Turns an intent over a chain into a plan, or says what stands in the way (section 9). One pure function: the same chain, intent,
 * person and date always give the same plan.
 */
public final class Planner {

    private static final List<Role> MAY_CANCEL = List.of(Role.CONTROLLER, Role.LEAD);

    private Planner() {
    }

    /**
     * Plans an intent.
     *
     * @param cancellation the number that a cancellation would get
     */
    public static Decision<Plan> plan(Chain chain, Intent intent, Person person, String reason, LocalDate on,
            String cancellation) {
        if (!person.decides()) {
            return Decision.refused(new CommonRefusal.NotAuthorised("undo documents", person.role(), MAY_CANCEL));
        }
        if (reason.isBlank()) {
            return Decision.refused(CommonRefusal.Incomplete.of("reason", "why it is undone"));
        }
        var order = chain.order();
        if (order.state() == OrderState.DECLINED) {
            return Decision.refused(new OrderRefusal.Ended(order.number(), order.state()));
        }
        var steps = new ArrayList<Plan.Step>();
        if (order.state() == OrderState.AWAITING_APPROVAL) {
            steps.add(now(Plan.Kind.RECALL, "The request for approval is recalled",
                    List.of(new Effect.StateChanged(order.number(), order.state(), OrderState.DRAFT))));
        }
        if (intent instanceof Intent.CancelRest rest && !rest.lines().isEmpty()) {
            return someLines(chain, rest, steps, reason, on, cancellation);
        }
        var refusals = intent instanceof Intent.CancelOrder ? nothingLeft(chain) : List.<Refusal>of();
        return refusals.isEmpty() ? everythingOpen(chain, intent, steps, reason, on, cancellation) : Decision.refused(refusals);
    }

    private static List<Refusal> nothingLeft(Chain chain) {
        var refusals = new ArrayList<Refusal>();
        chain.dispatches().stream().filter(d -> d.state() == Dispatch.State.DEPARTED).findFirst()
                .ifPresent(d -> refusals.add(new UnwindRefusal.DepartedGoods(chain.order().number(), d.number())));
        if (refusals.isEmpty() && chain.anyBilled()) {
            refusals.add(new UnwindRefusal.Billed(chain.order().number(), chain.invoices().get(0).number()));
        }
        return refusals;
    }

    /** Staged notes are voided first, then what is reserved is released, then all that is open is given up. */
    private static Decision<Plan> everythingOpen(Chain chain, Intent intent, List<Plan.Step> steps, String reason, LocalDate on,
            String cancellation) {
        var order = chain.order();
        for (var staged : chain.staged()) {
            steps.add(now(Plan.Kind.VOID_STAGED, "Dispatch %s is voided: its goods go back to the shelf".formatted(staged.number()),
                    List.of(new Effect.Voided(staged.withState(Dispatch.State.VOIDED)))));
        }
        var unstaged = chain.after(steps.stream().flatMap(step -> step.effects().stream()).toList());
        var open = new TreeMap<Integer, Quantity>();
        var reserved = new TreeMap<Integer, Quantity>();
        for (var flow : unstaged.flows()) {
            open.put(flow.line().no(), flow.open());
            // what was billed ahead keeps its goods
            reserved.put(flow.line().no(), flow.reserved().minus(flow.reserved().min(flow.ahead())));
        }
        return cancel(unstaged, open, reserved, steps, intent.words(order.number()), reason, on, cancellation);
    }

    /** Only what is not staged can go; what waits goes first, then what is reserved. */
    private static Decision<Plan> someLines(Chain chain, Intent.CancelRest intent, List<Plan.Step> steps, String reason,
            LocalDate on, String cancellation) {
        var order = chain.order();
        var refusals = new ArrayList<Refusal>();
        var asked = new TreeMap<Integer, Quantity>();
        for (var part : intent.lines()) {
            if (!order.hasLine(part.line())) {
                refusals.add(new CommonRefusal.NotFound("line", part.line() + " on order " + order.number()));
            } else if (!part.quantity().isPositive()) {
                refusals.add(CommonRefusal.Incomplete.of("lines[" + part.line() + "].quantity", "a quantity above zero"));
            } else {
                asked.merge(part.line(), part.quantity(), Quantity::plus);
            }
        }
        var released = new TreeMap<Integer, Quantity>();
        asked.forEach((no, quantity) -> {
            var flow = chain.flow(no);
            var notStaged = flow.line().kind().isShipped() ? flow.open().min(flow.toShip().minus(flow.staged())) : flow.open();
            if (quantity.exceeds(flow.open())) {
                refusals.add(new UnwindRefusal.MoreThanOpen(order.number(), no, quantity, flow.open()));
            } else if (quantity.exceeds(notStaged)) {
                refusals.add(new UnwindRefusal.StagedGoods(order.number(), no, quantity, notStaged, stagedOn(chain, no)));
            }
            released.put(no, quantity.minus(waiting(flow)).max(Quantity.ZERO));
        });
        return refusals.isEmpty()
                ? cancel(chain, asked, released, steps, intent.words(order.number()), reason, on, cancellation)
                : Decision.refused(refusals);
    }

    private static Quantity waiting(LineFlow flow) {
        return flow.line().kind().isShipped() ? flow.unreserved() : flow.open();
    }

    private static String stagedOn(Chain chain, int line) {
        return chain.staged().stream().filter(d -> d.lines().stream().anyMatch(l -> l.orderLine() == line))
                .map(Dispatch::number).findFirst().orElseThrow();
    }

    private static Decision<Plan> cancel(Chain chain, TreeMap<Integer, Quantity> quantities,
            TreeMap<Integer, Quantity> released, List<Plan.Step> steps, String words, String reason, LocalDate on,
            String cancellation) {
        var order = chain.order();
        quantities.values().removeIf(Quantity::isZero);
        if (quantities.isEmpty()) {
            return Decision.refused(new UnwindRefusal.NothingOpen(order.number()));
        }
        var releases = new ArrayList<Effect>();
        released.forEach((no, quantity) -> {
            if (quantity.isPositive()) {
                releases.add(new Effect.Released(new LineRef(order.number(), no), order.siteOf(order.line(no)), order.line(no).item(), quantity));
            }
        });
        if (!releases.isEmpty()) {
            steps.add(now(Plan.Kind.RELEASE_RESERVATION, "What is reserved for it is free for others again", releases));
        }
        var lines = new ArrayList<Cancellation.Line>();
        quantities.forEach((no, quantity) -> lines.add(new Cancellation.Line(no, quantity)));
        var given = new Effect.QuantityCancelled(new Cancellation(cancellation, order.number(), on, reason, lines));
        steps.add(now(Plan.Kind.CANCEL_QUANTITY, "The open quantity of %d %s is given up".formatted(lines.size(),
                lines.size() == 1 ? "line" : "lines"), List.of(given)));
        if (chain.after(given).nothingToShipOrBill() && chain.unappliedDeposits().isPositive()) {
            return Decision.refused(new UnwindRefusal.DepositAttached(order.number(), chain.deposits().stream().filter(d -> d.unapplied().isPositive())
                    .map(Deposit::number).toList(), chain.unappliedDeposits()));
        }
        return Decision.of(new Plan(words, steps));
    }

    private static Plan.Step now(Plan.Kind kind, String sentence, List<Effect> effects) {
        return new Plan.Step(kind, sentence, Plan.Timing.NOW, MAY_CANCEL, effects);
    }
}
