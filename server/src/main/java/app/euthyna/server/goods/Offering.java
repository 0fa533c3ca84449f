package app.euthyna.server.goods;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Return;
import app.euthyna.core.goods.Claim;
import app.euthyna.core.goods.Reserving;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Numbers;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Offers free stock to those who wait for it, from the head of the queue. */
@Component
class Offering {

    private final ClaimQueue claims;
    private final ChainReader chains;
    private final Shelves shelves;
    private final Numbers numbers;
    private final WaitingLines waiting;
    private final StockOffers offers;

    Offering(
            ClaimQueue claims,
            ChainReader chains,
            Shelves shelves,
            Numbers numbers,
            WaitingLines waiting,
            StockOffers offers) {
        this.claims = claims;
        this.chains = chains;
        this.shelves = shelves;
        this.numbers = numbers;
        this.waiting = waiting;
        this.offers = offers;
    }

    /**
     * The lines of orders concerned take their place in the queue anew; then free stock is offered on the shelves where
     * something became free or somebody waits otherwise than before.
     */
    void offer(CommandContext context, List<Effect> batch, EffectSink.Further further) {
        var concerned = new TreeSet<Place>();
        var releases = new ArrayList<Effect>();
        var dropping = new LinkedHashSet<String>();
        var touched = new LinkedHashSet<String>();
        var cleared = new HashSet<String>();
        for (var effect : batch) {
            if (effect instanceof Effect.StockReceived received) {
                concerned.add(claims.place(received.item(), received.site()));
            }
            if (effect instanceof Effect.ReservationReleased released) {
                concerned.add(claims.place(released.item(), released.site()));
            }
            if (effect instanceof Effect.StockCounted corrected) {
                concerned.add(claims.place(corrected.item(), corrected.site()));
            }
            if (effect instanceof Effect.ReturnInspected inspected) {
                inspected.results().stream()
                        .filter(j -> j.outcome().kind() == Return.Outcome.Kind.RESTOCK)
                        .forEach(j -> concerned.add(claims.place(
                                inspected.before().line(j.line()).item(),
                                j.outcome().site())));
            }
            if (effect instanceof Effect.DispatchReversed reversed) {
                reversed.dispatch()
                        .lines()
                        .forEach(line -> concerned.add(
                                claims.place(line.item(), reversed.dispatch().site())));
            }
            if (!(effect instanceof Effect.StockReserved)) {
                touched.addAll(effect.orders());
            }
            if (effect instanceof Effect.OrderChanged
                    || (effect instanceof Effect.StateChanged changed && changed.to() == OrderState.CLEARED)) {
                cleared.addAll(effect.orders());
            }
        }
        for (var number : touched) {
            var order = claims.queue(number, concerned, releases);
            if (cleared.contains(number) && order.lines().stream().anyMatch(line -> line.shortage() == Shortage.DROP)) {
                dropping.add(number);
            }
        }
        further.write(context, releases);
        concerned.forEach(place -> serve(context, place, further));
        dropping.forEach(number -> drop(context, number, further));
    }

    /** What a cleared order is short of and was not to wait for is given up. */
    private void drop(CommandContext context, String number, EffectSink.Further further) {
        Reserving.dropped(chains.chain(number), () -> numbers.next(DocumentKind.CANCELLATION), context.date())
                .ifPresent(cancellation -> further.write(context, List.of(new Effect.QuantityCancelled(cancellation))));
    }

    /**
     * Serves the queue from its head until nothing is free or nobody waits; its length does not matter. Where the next
     * belongs to a customer that nobody has locked, the rest is handed out after the command.
     */
    private void serve(CommandContext context, Place place, EffectSink.Further further) {
        while (true) {
            var head = waiting.head(place);
            if (head.isEmpty()) {
                return;
            }
            var theirs = waiting.ofLocked(head);
            if (theirs.isEmpty()) {
                if (waiting.isFree(place)) {
                    offers.queue(context, place);
                }
                return;
            }
            var shelf = shelves.lock(place);
            var wanted = Quantity.sum(theirs.stream().map(Claim::waiting).toList());
            var served = Reserving.offer(shelf, theirs);
            if (served.isEmpty()) {
                return;
            }
            further.write(context, served);
            if (wanted.exceeds(shelf.free()) || (theirs.size() == head.size() && head.size() < ShelfQueries.AT_ONCE)) {
                return;
            }
        }
    }
}
