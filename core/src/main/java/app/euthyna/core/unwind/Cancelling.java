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
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Plans that give up what is open of an order (section 9, 1, 2, 6 and 7). */
final class Cancelling {

    private static final Plan.Question DEPOSIT = new Plan.Question(
            "money",
            "Deposit",
            List.of(
                    new Plan.Answer("refund", "Refund it"),
                    new Plan.Answer("customer-credit", "Move it to customer credit")));

    private final Chain chain;
    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;
    private final List<Plan.Step> steps = new ArrayList<>();

    Cancelling(Chain chain, UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.chain = chain;
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
    }

    Decision<Plan> rest(Intent.CancelRest rest) {
        if (declined()) {
            return Decision.refused(
                    new OrderRefusal.Ended(number(), chain.order().state()));
        }
        recall();
        return rest.lines().isEmpty() ? everythingOpen() : someLines(rest.lines());
    }

    Decision<Plan> order() {
        if (declined()) {
            return Decision.refused(
                    new OrderRefusal.Ended(number(), chain.order().state()));
        }
        var refusals = nothingLeft();
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        recall();
        return everythingOpen();
    }

    private String number() {
        return chain.order().number();
    }

    private boolean declined() {
        return chain.order().state() == OrderState.DECLINED;
    }

    private void recall() {
        var order = chain.order();
        if (order.state() == OrderState.AWAITING_APPROVAL) {
            steps.add(Planner.now(
                    Plan.Kind.RECALL,
                    "The approval request is recalled",
                    List.of(new Effect.StateChanged(order.number(), order.state(), OrderState.DRAFT))));
        }
    }

    private List<Refusal> nothingLeft() {
        var refusals = new ArrayList<Refusal>();
        chain.dispatches().stream()
                .filter(d -> d.state() == Dispatch.State.DEPARTED)
                .findFirst()
                .ifPresent(d -> refusals.add(new UnwindRefusal.DepartedGoods(number(), d.number())));
        if (refusals.isEmpty() && chain.anyBilled()) {
            refusals.add(new UnwindRefusal.Billed(
                    number(),
                    chain.inForce()
                            .filter(invoice -> invoice.bills(number()))
                            .findFirst()
                            .orElseThrow()
                            .number()));
        }
        return refusals;
    }

    /** Staged notes are voided first, then what is reserved is released, then all that is open is given up. */
    private Decision<Plan> everythingOpen() {
        for (var staged : chain.staged()) {
            steps.add(Planner.now(
                    Plan.Kind.VOID_STAGED,
                    "Dispatch %s is voided: its goods go back to stock".formatted(staged.number()),
                    List.of(new Effect.DispatchVoided(staged.withState(Dispatch.State.VOIDED)))));
        }
        var unstaged = chain.after(
                steps.stream().flatMap(step -> step.effects().stream()).toList());
        var open = new TreeMap<Integer, Quantity>();
        var reserved = new TreeMap<Integer, Quantity>();
        for (var flow : unstaged.flows()) {
            open.put(flow.line().no(), flow.open());
            // what was billed ahead keeps its goods
            reserved.put(flow.line().no(), flow.reserved().minus(flow.reserved().min(flow.ahead())));
        }
        return cancel(unstaged, open, reserved);
    }

    /** Only what is not staged can go; what waits goes first, then what is reserved. */
    private Decision<Plan> someLines(List<Intent.Part> parts) {
        var refusals = new ArrayList<Refusal>();
        var asked = new TreeMap<Integer, Quantity>();
        for (var part : parts) {
            if (!chain.order().hasLine(part.line())) {
                refusals.add(new CommonRefusal.NotFound("line", part.line() + " on order " + number()));
            } else if (!part.quantity().isPositive()) {
                refusals.add(
                        CommonRefusal.Incomplete.of("lines[" + part.line() + "].quantity", "a quantity above zero"));
            } else {
                asked.merge(part.line(), part.quantity(), Quantity::plus);
            }
        }
        var released = new TreeMap<Integer, Quantity>();
        asked.forEach((no, quantity) -> {
            var flow = chain.flow(no);
            var notStaged = flow.line().kind().isShipped()
                    ? flow.open().min(flow.toShip().minus(flow.staged()))
                    : flow.open();
            if (quantity.exceeds(flow.open())) {
                refusals.add(new UnwindRefusal.MoreThanOpen(number(), no, quantity, flow.open()));
            } else if (quantity.exceeds(notStaged)) {
                refusals.add(new UnwindRefusal.StagedGoods(number(), no, quantity, notStaged, stagedOn(no)));
            }
            released.put(no, quantity.minus(waiting(flow)).max(Quantity.ZERO));
        });
        return refusals.isEmpty() ? cancel(chain, asked, released) : Decision.refused(refusals);
    }

    private static Quantity waiting(LineFlow flow) {
        return flow.line().kind().isShipped() ? flow.unreserved() : flow.open();
    }

    private String stagedOn(int line) {
        return chain.staged().stream()
                .filter(d -> d.lines().stream().anyMatch(l -> l.orderLine() == line))
                .map(Dispatch::number)
                .findFirst()
                .orElseThrow();
    }

    private Decision<Plan> cancel(Chain now, Map<Integer, Quantity> quantities, Map<Integer, Quantity> released) {
        quantities.values().removeIf(Quantity::isZero);
        if (quantities.isEmpty()) {
            return Decision.refused(new UnwindRefusal.NothingOpen(number()));
        }
        release(released);
        var order = chain.order();
        var lines = new ArrayList<Cancellation.Line>();
        quantities.forEach((no, quantity) -> lines.add(new Cancellation.Line(no, quantity)));
        var given = new Effect.QuantityCancelled(new Cancellation(
                unwindRequest.numbers().apply(DocumentKind.CANCELLATION),
                number(),
                unwindRequest.on(),
                unwindRequest.reason(),
                lines));
        var questions = new ArrayList<Plan.Question>();
        if (now.after(given).nothingToShipOrBill() && chain.unappliedDeposits().isPositive()) {
            if (unwindRequest.choices().money().isEmpty()) {
                return Decision.refused(new UnwindRefusal.DepositAttached(
                        number(), unapplied().stream().map(Deposit::number).toList(), chain.unappliedDeposits()));
            }
            questions.add(DEPOSIT);
            steps.add(moneyFirst());
        }
        steps.add(Planner.now(
                Plan.Kind.CANCEL_QUANTITY,
                "The open quantity of %d %s is cancelled".formatted(lines.size(), lines.size() == 1 ? "line" : "lines"),
                List.of(given)));
        var value = lines.stream()
                .map(line -> order.line(line.orderLine()).net(line.quantity(), order.currency()))
                .reduce(Money.zero(order.currency()), Money::plus);
        return Decision.of(new Plan(unwindRequest.intent().words(), value, steps, questions));
    }

    private void release(Map<Integer, Quantity> released) {
        var order = chain.order();
        var releases = new ArrayList<Effect>();
        released.forEach((no, quantity) -> {
            if (quantity.isPositive()) {
                releases.add(new Effect.ReservationReleased(
                        new LineRef(order.number(), no),
                        order.siteOf(order.line(no)),
                        order.line(no).item(),
                        quantity));
            }
        });
        if (!releases.isEmpty()) {
            steps.add(Planner.now(Plan.Kind.RELEASE_RESERVATION, "Its reservations are released", releases));
        }
    }

    private List<Deposit> unapplied() {
        return chain.deposits().stream().filter(d -> d.unapplied().isPositive()).toList();
    }

    /** A deposit is refunded, or stays as customer credit, before nothing is left that it was paid for. */
    private Plan.Step moneyFirst() {
        var customer = chain.order().customer();
        if (unwindRequest.choices().refunds()) {
            return Refunding.step(
                    unapplied().stream()
                            .map(d -> new Effect.RefundGiven(
                                    unwindRequest.numbers().apply(DocumentKind.REFUND),
                                    customer,
                                    new DocumentRef(DocumentKind.DEPOSIT, d.number()),
                                    number(),
                                    d.unapplied()))
                            .toList(),
                    unwindContext,
                    unwindRequest);
        }
        return Planner.now(
                Plan.Kind.MOVE_TO_CUSTOMER_CREDIT,
                "the deposit of %s becomes customer credit".formatted(chain.unappliedDeposits()),
                unapplied().stream()
                        .map(d -> new Effect.DepositCredited(d.number(), number(), customer, d.unapplied()))
                        .toList());
    }
}
