package app.euthyna.core.flow;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.Currency;
import java.util.List;

/**
 * A dispatch note: goods of one order picked at one site.
 *
 * @param date when it departed, or was staged as long as it has not
 */
public record Dispatch(String number, String order, String site, State state, LocalDate date, List<Line> lines) {

    public enum State {
        /** Picked, still in the building. */
        STAGED,
        /** Left the building; entries are posted. */
        DEPARTED,
        /** The goods went back to the shelf before leaving. */
        VOIDED,
        /** Departed by mistake; mirrored. */
        REVERSED
    }

    /**
     * Goods of one order line.
     *
     * @param cost what left the shelf's value with the quantity; zero until departed
     */
    public record Line(int no, int orderLine, String item, Quantity quantity, Money cost) {}

    public Dispatch {
        lines = List.copyOf(lines);
    }

    public Money cost(Currency currency) {
        return lines.stream().map(Line::cost).reduce(Money.zero(currency), Money::plus);
    }

    public Dispatch withState(State changed) {
        return new Dispatch(number, order, site, changed, date, lines);
    }
}
