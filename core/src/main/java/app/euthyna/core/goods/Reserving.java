package app.euthyna.core.goods;

import app.euthyna.core.flow.Cancellation;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** Offers free stock to waiting order lines, and gives up what does not wait. */
public final class Reserving {

    private Reserving() {
    }

    /** What of the shelf's free stock goes to whom, first in the queue first. */
    public static List<Effect> offer(Shelf shelf, List<Claim> claims) {
        var free = shelf.free();
        var reserved = new ArrayList<Effect>();
        for (var claim : claims.stream().sorted(Claim.QUEUE).toList()) {
            var given = free.min(claim.waiting());
            if (given.isPositive()) {
                reserved.add(new Effect.Reserved(claim.orderLine(), shelf.site(), shelf.item(), given));
                free = free.minus(given);
            }
        }
        return reserved;
    }

    /**
     * Gives up what a cleared order waits for on lines that were not to wait; empty when there is none.
     *
     * @param number of the cancellation, asked for only when there is one
     */
    public static Optional<Cancellation> dropped(Chain chain, Supplier<String> number, LocalDate on) {
        var lines = chain.order().state() != OrderState.CLEARED ? List.<Cancellation.Line>of() : chain.flows().stream()
                .filter(flow -> flow.line().kind().isShipped() && flow.line().shortage() == Shortage.DROP && flow.waiting().isPositive())
                .map(flow -> new Cancellation.Line(flow.line().no(), flow.waiting())).toList();
        return lines.isEmpty() ? Optional.empty()
                : Optional.of(new Cancellation(number.get(), chain.order().number(), on, "not in store, dropped as the order says", lines));
    }
}
