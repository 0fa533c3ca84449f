package app.euthyna.core.goods;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;

/** Offers free stock to waiting order lines, and gives up what does not wait. */
public final class Reserving {

    private Reserving() {}

    /** What of the shelf's free stock goes to whom, first in the queue first. */
    public static List<Effect> offer(Shelf shelf, List<Claim> claims) {
        var free = shelf.free();
        var reserved = new ArrayList<Effect>();
        for (var claim : claims.stream().sorted(Claim.QUEUE).toList()) {
            var given = free.min(claim.waiting());
            if (given.isPositive()) {
                reserved.add(new Effect.StockReserved(claim.orderLine(), shelf.site(), shelf.item(), given));
                free = free.minus(given);
            }
        }
        return reserved;
    }

    /**
     * Hands what is held for one order line over to another that asks for the same goods of the same store and waits
     * for them.
     *
     * @param reason why the queue is not kept to
     */
    public static Decision<Effect.ReservationTransferred> transfer(
            Chain from, int fromLine, Chain to, int toLine, Quantity quantity, String reason) {
        var refusals = new ArrayList<Refusal>();
        for (var end : List.of(Map.entry(from, fromLine), Map.entry(to, toLine))) {
            if (!end.getKey().order().hasLine(end.getValue())) {
                refusals.add(new CommonRefusal.NotFound(
                        "line",
                        end.getValue() + " on order " + end.getKey().order().number()));
            }
        }
        if (!quantity.isPositive()) {
            refusals.add(CommonRefusal.Incomplete.of("quantity", "a quantity above zero"));
        }
        if (reason.isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "a reason for the transfer"));
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var giver = from.flow(fromLine);
        var taker = to.flow(toLine);
        var fromRef = new LineRef(from.order().number(), fromLine);
        var toRef = new LineRef(to.order().number(), toLine);
        if (!giver.line().item().equals(taker.line().item())
                || !from.order().siteOf(giver.line()).equals(to.order().siteOf(taker.line()))) {
            refusals.add(new GoodsRefusal.OtherGoods(fromRef.toString(), toRef.toString()));
        } else if (!to.order().state().isCleared()) {
            refusals.add(
                    new OrderRefusal.NotCleared(to.order().number(), to.order().state()));
        } else if (quantity.exceeds(giver.reserved())) {
            refusals.add(new GoodsRefusal.NotReserved(from.order().number(), fromLine, quantity, giver.reserved()));
        } else if (quantity.exceeds(taker.waiting())) {
            refusals.add(new GoodsRefusal.MoreThanOpen(to.order().number(), toLine, quantity, taker.waiting()));
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.ReservationTransferred(
                        fromRef,
                        toRef,
                        from.order().siteOf(giver.line()),
                        giver.line().item(),
                        quantity))
                : Decision.refused(refusals);
    }

    /**
     * Gives up what a cleared order waits for on lines that were not to wait; empty when there is none.
     *
     * @param number of the cancellation, asked for only when there is one
     */
    public static Optional<Cancellation> dropped(Chain chain, Supplier<String> number, LocalDate on) {
        var lines = chain.order().state() != OrderState.CLEARED
                ? List.<Cancellation.Line>of()
                : chain.flows().stream()
                        .filter(flow -> flow.line().kind().isShipped()
                                && flow.line().shortage() == Shortage.DROP
                                && flow.waiting().isPositive())
                        .map(flow -> new Cancellation.Line(flow.line().no(), flow.waiting()))
                        .toList();
        return lines.isEmpty()
                ? Optional.empty()
                : Optional.of(new Cancellation(
                        number.get(), chain.order().number(), on, "out of stock, cancelled as the order says", lines));
    }
}
