package app.euthyna.core.flow;

import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.List;

/** Open quantity of an order that was given up. Posts nothing. */
public record Cancellation(String number, String order, LocalDate on, String reason, List<Line> lines) {

    public Cancellation {
        lines = List.copyOf(lines);
    }

    public record Line(int orderLine, Quantity quantity) {}
}
