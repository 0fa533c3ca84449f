package app.euthyna.core.goods;

import app.euthyna.core.flow.BilledAheadDelivery;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Staging, voiding and departing (section 7). */
public final class Dispatching {

    private Dispatching() {}

    /** A quantity asked for of an order line. */
    public record Pick(int line, Quantity quantity) {}

    /**
     * Picks reserved goods of a cleared order: those asked for, or all that is reserved where {@code picks} is empty. A
     * note is of one store: where lines ship from several, the order's own comes first, and the others are staged after
     * it.
     */
    public static Decision<Effect.DispatchStaged> stage(Chain chain, String number, LocalDate on, List<Pick> picks) {
        var order = chain.order();
        if (!order.state().isCleared()) {
            return Decision.refused(new OrderRefusal.NotCleared(order.number(), order.state()));
        }
        var asked = picks.isEmpty() ? reserved(chain) : picks;
        if (asked.isEmpty()) {
            var open = chain.flows().stream()
                    .anyMatch(flow -> flow.toShip().minus(flow.staged()).isPositive());
            return Decision.refused(
                    open
                            ? new GoodsRefusal.NothingReserved(order.number())
                            : new GoodsRefusal.NothingOpen(order.number()));
        }
        var refusals = new ArrayList<Refusal>();
        var lines = new ArrayList<Dispatch.Line>();
        var already = new HashMap<Integer, Quantity>();
        for (var pick : asked) {
            if (!order.hasLine(pick.line())) {
                refusals.add(new CommonRefusal.NotFound("line", pick.line() + " on order " + order.number()));
                continue;
            }
            if (!pick.quantity().isPositive()) {
                refusals.add(
                        CommonRefusal.Incomplete.of("lines[" + pick.line() + "].quantity", "a quantity above zero"));
                continue;
            }
            var flow = chain.flow(pick.line());
            var wanted = already.merge(pick.line(), pick.quantity(), Quantity::plus);
            var open = flow.toShip().minus(flow.staged());
            if (wanted.exceeds(open)) {
                refusals.add(new GoodsRefusal.MoreThanOpen(order.number(), pick.line(), wanted, open));
            } else if (wanted.exceeds(flow.reserved())) {
                refusals.add(new GoodsRefusal.NotReserved(order.number(), pick.line(), wanted, flow.reserved()));
            }
            lines.add(new Dispatch.Line(
                    lines.size() + 1, pick.line(), flow.line().item(), pick.quantity(), Money.zero(order.currency())));
        }
        var sites = lines.stream()
                .map(line -> order.siteOf(order.line(line.orderLine())))
                .distinct()
                .toList();
        if (sites.size() > 1) {
            refusals.add(CommonRefusal.Incomplete.of(
                    "lines", "lines of one store; these ship from " + String.join(" and ", sites)));
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.DispatchStaged(
                        new Dispatch(number, order.number(), sites.get(0), Dispatch.State.STAGED, on, lines)))
                : Decision.refused(refusals);
    }

    /** All that is reserved at one store, the order's own first. */
    private static List<Pick> reserved(Chain chain) {
        var order = chain.order();
        var from = chain.flows().stream()
                .filter(flow -> flow.reserved().isPositive())
                .map(flow -> order.siteOf(flow.line()))
                .min(Comparator.comparing((String site) -> !site.equals(order.site()))
                        .thenComparing(site -> site));
        return chain.flows().stream()
                .filter(flow -> flow.reserved().isPositive()
                        && order.siteOf(flow.line()).equals(from.orElse("")))
                .map(flow -> new Pick(flow.line().no(), flow.reserved()))
                .toList();
    }

    /** Puts staged goods back on the shelf. */
    public static Decision<Effect.DispatchVoided> voidStaged(Dispatch dispatch) {
        return notStaged(dispatch)
                .<Decision<Effect.DispatchVoided>>map(Decision::refused)
                .orElseGet(() -> Decision.of(new Effect.DispatchVoided(dispatch.withState(Dispatch.State.VOIDED))));
    }

    /**
     * Staged goods leave, each line with its cost at the shelf's moving average.
     *
     * @param shelves by item, as they stand at the dispatch's site
     */
    public static Decision<Effect.DispatchDeparted> depart(
            Chain chain, Dispatch dispatch, Map<String, Shelf> shelves, LocalDate on) {
        var refused = notStaged(dispatch);
        if (refused.isPresent()) {
            return Decision.refused(refused.get());
        }
        var held =
                DispatchActions.notCleared(chain.order().number(), chain.order().state());
        if (held.isPresent()) {
            return Decision.refused(held.get());
        }
        var left = new HashMap<>(shelves);
        var lines = new ArrayList<Dispatch.Line>();
        var delivered = new ArrayList<BilledAheadDelivery>();
        var after = chain;
        for (var line : dispatch.lines()) {
            var shelf = left.get(line.item());
            var cost = shelf.cost(line.quantity());
            left.put(line.item(), shelf.issue(line.quantity(), cost));
            var gone = new Dispatch.Line(line.no(), line.orderLine(), line.item(), line.quantity(), cost);
            lines.add(gone);
            for (var delivery : deliveries(after, new LineRef(dispatch.number(), line.no()), gone)) {
                delivered.add(delivery);
                after = after.withDelivery(delivery);
            }
        }
        var departed =
                new Dispatch(dispatch.number(), dispatch.order(), dispatch.site(), Dispatch.State.DEPARTED, on, lines);
        var atNoCharge = chain.flows().stream()
                .filter(LineFlow::atNoCharge)
                .map(LineFlow::line)
                .map(OrderLine::no)
                .toList();
        return Decision.of(new Effect.DispatchDeparted(departed, atNoCharge, delivered));
    }

    /**
     * What leaves was perhaps billed before: the oldest invoice's goods go first, each with its slice of the cost and
     * of the net.
     */
    private static List<BilledAheadDelivery> deliveries(Chain chain, LineRef dispatchLine, Dispatch.Line gone) {
        var covers = new ArrayList<BilledAheadDelivery>();
        var orderLine = new LineRef(chain.order().number(), gone.orderLine());
        var taken = Quantity.ZERO;
        var cost = Money.zero(chain.order().currency());
        for (var invoice : chain.inForce().toList()) {
            for (var line : invoice.lines()) {
                var now = gone.quantity().minus(taken).min(line.ahead());
                if (line.orderLine().equals(orderLine) && now.isPositive()) {
                    taken = taken.plus(now);
                    var slice = gone.cost().slice(taken, gone.quantity(), cost);
                    cost = cost.plus(slice);
                    covers.add(new BilledAheadDelivery(
                            invoice.customer(),
                            new LineRef(invoice.number(), line.no()),
                            line.item(),
                            new Invoice.Source(dispatchLine, now, slice, true, line.earnedWith(now)),
                            invoice.orders()));
                }
            }
        }
        return covers;
    }

    private static Optional<Refusal> notStaged(Dispatch dispatch) {
        return switch (dispatch.state()) {
            case STAGED -> Optional.empty();
            case DEPARTED -> Optional.of(new GoodsRefusal.AlreadyDeparted(dispatch.number()));
            case VOIDED, REVERSED -> Optional.of(new GoodsRefusal.AlreadyVoided(dispatch.number()));
        };
    }
}
