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
import java.util.stream.Stream;

/**
 * A posted invoice over lines of one or several orders of a customer.
 *
 * @param text that stands on it above the lines; may be empty
 * @param reversed it was taken back: it stays on record and counts no more
 */
public record Invoice(
        String number,
        String customer,
        LocalDate on,
        LocalDate dueOn,
        String text,
        boolean reversed,
        List<Line> lines,
        Totals totals) {

    /**
     * What is billed of one order line, and which dispatched goods it bills, oldest departure first.
     *
     * @param deferred the part of the net that was billed ahead of dispatch, as it stood when the invoice was posted
     * @param sources empty for services and charges
     */
    public record Line(
            int no,
            LineRef orderLine,
            LineKind kind,
            String item,
            String description,
            Quantity quantity,
            Price price,
            Money net,
            Money deferred,
            Vat vat,
            List<Source> sources) {
        public Line {
            sources = List.copyOf(sources);
        }

        /** Billed and not gone yet. Services and charges are never ahead. */
        public Quantity ahead() {
            return kind.isShipped() ? quantity.minus(delivered()) : Quantity.ZERO;
        }

        private Quantity delivered() {
            return Quantity.sum(sources.stream().map(Source::quantity).toList());
        }

        /** What of the net is still deferred. */
        public Money unearned() {
            return sources.stream().map(Source::earned).reduce(deferred, Money::minus);
        }

        /**
         * The slice of the net that is earned when {@code next} more of the line leaves (section 1, slices; IFRS
         * 15.31).
         */
        public Money earnedWith(Quantity next) {
            return net.slice(delivered().plus(next), quantity, net.minus(unearned()));
        }

        Line with(Source source) {
            return new Line(
                    no,
                    orderLine,
                    kind,
                    item,
                    description,
                    quantity,
                    price,
                    net,
                    deferred,
                    vat,
                    Stream.concat(sources.stream(), Stream.of(source)).toList());
        }
    }

    /**
     * Goods of a dispatch line that an invoice line bills, with their slice of its cost.
     *
     * @param ahead the goods left after they were billed
     * @param earned what of the line's deferred revenue was earned by that; zero where they had left before
     */
    public record Source(LineRef dispatchLine, Quantity quantity, Money cost, boolean ahead, Money earned) {

        /** Undoes it: the goods are not the line's any more. */
        public Source negated() {
            return new Source(dispatchLine, quantity.negated(), cost.negated(), ahead, earned.negated());
        }

        public static Source ofGone(LineRef dispatchLine, Quantity quantity, Money cost) {
            return new Source(dispatchLine, quantity, cost, false, Money.zero(cost.currency()));
        }
    }

    public Invoice {
        lines = List.copyOf(lines);
    }

    Invoice withSource(int line, Source source) {
        return new Invoice(
                number,
                customer,
                on,
                dueOn,
                text,
                reversed,
                lines.stream().map(l -> l.no() == line ? l.with(source) : l).toList(),
                totals);
    }

    Invoice asReversed() {
        return new Invoice(number, customer, on, dueOn, text, true, lines, totals);
    }

    public Line line(int no) {
        return lines.stream()
                .filter(line -> line.no() == no)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("invoice " + number + " has no line " + no));
    }

    public boolean bills(String order) {
        return lines.stream().anyMatch(line -> line.orderLine().number().equals(order));
    }
}
