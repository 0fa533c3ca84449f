package app.euthyna.core.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.InspectionResult;
import app.euthyna.core.flow.Return;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.goods.StockCount;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.List;

/**
 * Goods were booked in as returned by mistake (section 9, 9): what was decided on them is taken back first, at its
 * values, then their receipt.
 */
final class ReversingReceipt {

    private static final Plan.Question RETURN = new Plan.Question(
            "return",
            "The return",
            List.of(
                    new Plan.Answer("expected", "Its goods are still expected"),
                    new Plan.Answer("withdrawn", "It is withdrawn: nothing will come")));

    private final UnwindContext unwindContext;
    private final UnwindRequest unwindRequest;
    private final List<Refusal> refusals = new ArrayList<>();

    ReversingReceipt(UnwindContext unwindContext, UnwindRequest unwindRequest) {
        this.unwindContext = unwindContext;
        this.unwindRequest = unwindRequest;
    }

    Decision<Plan> plan(Intent.TakeBack intent) {
        var number = intent.subject().number();
        var goods = Chain.returnOf(unwindContext.chains(), number);
        if (!goods.anyReceived()) {
            return Decision.refused(new UnwindRefusal.NothingReceived(number));
        }
        var credits = Chain.credits(unwindContext.chains()).stream()
                .filter(credit -> credit.isFor(number))
                .map(CreditNote::number)
                .toList();
        if (!credits.isEmpty()) {
            return Decision.refused(new UnwindRefusal.ReturnCredited(number, credits));
        }
        var steps = new ArrayList<Plan.Step>();
        var decided = goods.decided();
        if (!decided.isEmpty()) {
            steps.add(inspection(goods, decided));
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var received =
                Quantity.sum(goods.lines().stream().map(Return.Line::received).toList());
        steps.add(Planner.now(
                Plan.Kind.REVERSE_RECEIPT,
                "The receipt of %s is reversed: the goods did not come".formatted(received),
                List.of(new Effect.ReceiptReversed(goods))));
        if (intent.withdrawn() && !goods.withdrawn()) {
            steps.add(Planner.now(
                    Plan.Kind.WITHDRAW_RETURN,
                    "Return %s is withdrawn".formatted(number),
                    List.of(new Effect.ReturnWithdrawn(goods))));
        }
        return Decision.of(new Plan(
                unwindRequest.intent().words(), cost(goods), steps, goods.withdrawn() ? List.of() : List.of(RETURN)));
    }

    private static Money cost(Return goods) {
        return goods.lines().stream()
                .flatMap(line -> line.parts().stream())
                .filter(part -> !part.reversed())
                .map(Return.Part::cost)
                .reduce(Money::plus)
                .orElseThrow();
    }

    private Plan.Step inspection(Return goods, List<InspectionResult> decided) {
        var effects = new ArrayList<Effect>();
        var said = new ArrayList<String>();
        for (var stocked : unwindContext.taken().shelves()) {
            var back = decided.stream()
                    .filter(result -> isOn(stocked.shelf(), goods, result))
                    .map(InspectionResult::outcome)
                    .toList();
            if (!back.isEmpty()) {
                offShelf(stocked, back, effects, said);
            }
        }
        effects.add(new Effect.InspectionReversed(
                goods,
                decided.stream()
                        .map(result -> new InspectionResult(
                                result.line(),
                                result.part(),
                                result.outcome().taken(unwindRequest.on(), unwindRequest.reason())))
                        .toList()));
        return Planner.now(
                Plan.Kind.REVERSE_INSPECTION,
                "What was decided on %s is taken back at its values%s"
                        .formatted(
                                Quantity.sum(decided.stream()
                                        .map(result -> result.outcome().quantity())
                                        .toList()),
                                said.isEmpty() ? "" : ": " + String.join("; ", said)),
                effects);
    }

    private static boolean isOn(Shelf shelf, Return goods, InspectionResult result) {
        return result.outcome().kind() == Return.Outcome.Kind.RESTOCK
                && result.outcome().site().equals(shelf.site())
                && goods.line(result.line()).item().equals(shelf.item());
    }

    /**
     * Restocked goods leave the shelf at the value that they came with. Reservations that are no longer covered are
     * given up, the last in the queue first, as in a count; value that the shelf has not, or would keep without goods,
     * is an adjustment of its own.
     */
    private void offShelf(
            UnwindContext.Stocked stocked, List<Return.Outcome> back, List<Effect> effects, List<String> said) {
        var shelf = stocked.shelf();
        var quantity = Quantity.sum(back.stream().map(Return.Outcome::quantity).toList());
        var cost = back.stream().map(Return.Outcome::cost).reduce(Money::plus).orElseThrow();
        var reserved = Quantity.sum(
                stocked.held().stream().map(StockCount.Held::quantity).toList());
        var there = shelf.onHand().minus(shelf.reserved().minus(reserved));
        if (quantity.exceeds(there)) {
            refusals.add(new UnwindRefusal.GoodsGone(shelf.item(), shelf.site(), quantity, there));
            return;
        }
        var left = shelf.onHand().minus(quantity);
        var givenUp = StockCount.givenUp(shelf, shelf.reserved().minus(left), stocked.held());
        givenUp.forEach(effect -> said.add("order %s gives up %s of item %s"
                .formatted(effect.orderLine().number(), effect.quantity(), shelf.item())));
        effects.addAll(givenUp);
        var lacking = cost.minus(shelf.value());
        if (lacking.isPositive() || (left.isZero() && !lacking.isZero())) {
            effects.add(new Effect.StockCounted(
                    unwindRequest.numbers().apply(DocumentKind.STOCK_COUNT),
                    shelf.site(),
                    shelf.item(),
                    Quantity.ZERO,
                    lacking));
            said.add("%s of item %s is a stock adjustment, since later documents changed its value"
                    .formatted(lacking, shelf.item()));
        }
    }
}
