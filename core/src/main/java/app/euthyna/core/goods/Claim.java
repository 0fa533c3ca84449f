package app.euthyna.core.goods;

import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.Comparator;

/**
 * An order line that waits for stock.
 *
 * @param clearing when its order was cleared, counted up
 */
public record Claim(LineRef orderLine, Quantity waiting, LocalDate requestedOn, long clearing) {

    /** Who is served first: by requested date, then clearing time, then line (section 7). */
    public static final Comparator<Claim> QUEUE = Comparator.comparing(Claim::requestedOn)
            .thenComparing(Claim::clearing)
            .thenComparing(Claim::orderLine);
}
