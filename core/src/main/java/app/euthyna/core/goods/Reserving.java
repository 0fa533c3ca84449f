package app.euthyna.core.goods;

import app.euthyna.core.flow.Effect;
import java.util.ArrayList;
import java.util.List;

/** Offers free stock to waiting order lines. */
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
}
