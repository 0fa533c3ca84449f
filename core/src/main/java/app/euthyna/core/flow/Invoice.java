package app.euthyna.core.flow;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.time.LocalDate;
import java.util.List;

/** A posted invoice over lines of one or several orders of a customer. */
public record Invoice(String number, String customer, LocalDate on, LocalDate dueOn, List<Line> lines, Totals totals) {

    /**
     * What is billed of one order line, and which dispatched goods it bills, oldest departure first.
     *
     * @param sources empty for services and charges
     */
    public record Line(int no, LineRef orderLine, LineKind kind, String item, String description, Quantity quantity, Price price,
            Money net, Vat vat, List<Source> sources) {
        public Line {
            sources = List.copyOf(sources);
        }
    }

    /** Goods of a dispatch line that an invoice line bills, with their slice of its cost. */
    public record Source(LineRef dispatchLine, Quantity quantity, Money cost) {
    }

    public Invoice {
        lines = List.copyOf(lines);
    }

    public boolean bills(String order) {
        return lines.stream().anyMatch(line -> line.orderLine().number().equals(order));
    }
}
