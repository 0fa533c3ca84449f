package app.euthyna.core.flow;

import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Goods of a customer that may come back, of one or several dispatches; what of them has come, and what became of it
 * (section 10).
 *
 * @param reason its code in the list of reasons
 * @param withdrawn what has not come by now may not come any more
 */
public record Return(String number, String customer, LocalDate on, String reason, boolean withdrawn, List<Line> lines) {

    public Return {
        lines = List.copyOf(lines);
    }

    /**
     * Goods of one dispatch line.
     *
     * @param invoiceLine the invoice line that it was authorised from; empty where it was the dispatch
     * @param site where they left from
     * @param parts what came, in the order in which it came
     */
    public record Line(
            int no,
            LineRef orderLine,
            LineRef dispatchLine,
            Optional<LineRef> invoiceLine,
            String item,
            String site,
            Quantity authorised,
            List<Part> parts) {
        public Line {
            parts = List.copyOf(parts);
        }

        public Quantity received() {
            return Quantity.sum(parts.stream().map(Part::came).toList());
        }

        /** Received and not gone back to the customer. */
        public Quantity returned() {
            return Quantity.sum(parts.stream().map(Part::kept).toList());
        }

        public Quantity inInspection() {
            return Quantity.sum(parts.stream().map(Part::inInspection).toList());
        }

        public Part part(int no) {
            return parts.stream()
                    .filter(part -> part.no() == no)
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("line %d has no part %d".formatted(this.no, no)));
        }

        Line with(List<Part> more) {
            return withAll(Stream.concat(parts.stream(), more.stream()).toList());
        }

        Line with(int part, Outcome outcome) {
            return withAll(parts.stream()
                    .map(p -> p.no() == part ? p.with(outcome) : p)
                    .toList());
        }

        private Line withAll(List<Part> all) {
            return new Line(no, orderLine, dispatchLine, invoiceLine, item, site, authorised, all);
        }
    }

    /** How the company stood with goods when they came back, and so which account they come from. */
    public enum Standing {
        /** Gone and not billed: they were goods out. */
        UNBILLED,
        /** Billed: their cost was cost of sales. */
        BILLED,
        /** Gone at no charge: given away. */
        GIVEN_AWAY
    }

    /**
     * Goods that came back together and stood alike.
     *
     * @param invoiceLine that had billed them; empty unless they were billed
     * @param cost the slice of the dispatch's cost that came back with them
     * @param outcomes what became of them; one that was taken back is followed by the same with its signs turned
     * @param reversed they never came: their receipt was taken back, and it counts no more
     */
    public record Part(
            int no,
            LocalDate on,
            Standing standing,
            Optional<LineRef> invoiceLine,
            Quantity quantity,
            Money cost,
            List<Outcome> outcomes,
            boolean reversed) {
        public Part {
            outcomes = List.copyOf(outcomes);
        }

        /** Goods that came just now. */
        public Part(
                int no, LocalDate on, Standing standing, Optional<LineRef> invoiceLine, Quantity quantity, Money cost) {
            this(no, on, standing, invoiceLine, quantity, cost, List.of(), false);
        }

        /** What of them came. */
        public Quantity came() {
            return reversed ? Quantity.ZERO : quantity;
        }

        private Money costThatCame() {
            return reversed ? Money.zero(cost.currency()) : cost;
        }

        public Quantity inInspection() {
            return came().minus(Quantity.sum(
                    outcomes.stream().map(Outcome::quantity).toList()));
        }

        public Money costInInspection() {
            return costThatCame().minus(cost(outcomes.stream()));
        }

        /** What did not go back to the customer. */
        public Quantity kept() {
            return came().minus(Quantity.sum(sentBack().map(Outcome::quantity).toList()));
        }

        public Money keptCost() {
            return costThatCame().minus(cost(sentBack()));
        }

        /** Outcomes that were not taken back. */
        public List<Outcome> decided() {
            var left = new ArrayList<Outcome>();
            for (var outcome : outcomes) {
                if (outcome.quantity().isNegative()) {
                    left.stream().filter(outcome::undoes).findFirst().ifPresent(left::remove);
                } else {
                    left.add(outcome);
                }
            }
            return left;
        }

        private Stream<Outcome> sentBack() {
            return outcomes.stream().filter(o -> o.kind() == Outcome.Kind.SEND_BACK);
        }

        private Money cost(Stream<Outcome> of) {
            return of.map(Outcome::cost).reduce(Money.zero(cost.currency()), Money::plus);
        }

        Part with(Outcome outcome) {
            return new Part(
                    no,
                    on,
                    standing,
                    invoiceLine,
                    quantity,
                    cost,
                    Stream.concat(outcomes.stream(), Stream.of(outcome)).toList(),
                    reversed);
        }

        Part asReversed() {
            return new Part(no, on, standing, invoiceLine, quantity, cost, outcomes, true);
        }
    }

    /**
     * What was decided on goods in inspection.
     *
     * @param site where they were restocked; empty otherwise
     * @param remark a serial number, what is broken; may be empty
     */
    public record Outcome(Kind kind, LocalDate on, Quantity quantity, Money cost, String site, String remark) {

        /** The outcome that takes this one back. */
        public Outcome taken(LocalDate day, String why) {
            return new Outcome(kind, day, quantity.negated(), cost.negated(), site, why);
        }

        private boolean undoes(Outcome other) {
            return kind == other.kind
                    && site.equals(other.site)
                    && quantity.equals(other.quantity.negated())
                    && cost.equals(other.cost.negated());
        }

        public enum Kind {
            /** Back on a shelf. */
            RESTOCK,
            /** Worthless. */
            SCRAP,
            /** The customer gets them again: the return is undone by that much. */
            SEND_BACK
        }
    }

    public boolean touches(String order) {
        return orders().contains(order);
    }

    /** The orders that its goods were sold on. */
    public Set<String> orders() {
        return lines.stream().map(line -> line.orderLine().number()).collect(Collectors.toSet());
    }

    /** What may still come. */
    public Quantity expected(Line line) {
        return withdrawn ? Quantity.ZERO : line.authorised().minus(line.received());
    }

    public boolean expectsMore() {
        return lines.stream().anyMatch(line -> expected(line).isPositive());
    }

    public boolean anyReceived() {
        return lines.stream().anyMatch(line -> line.received().isPositive());
    }

    public boolean inInspection() {
        return lines.stream().anyMatch(line -> line.inInspection().isPositive());
    }

    public Line line(int no) {
        return lines.stream()
                .filter(line -> line.no() == no)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("return " + number + " has no line " + no));
    }

    /** What of the value that came back is neither on a shelf nor written off nor with the customer again. */
    public Money costInInspection(Currency currency) {
        return lines.stream()
                .flatMap(line -> line.parts().stream())
                .map(Part::costInInspection)
                .reduce(Money.zero(currency), Money::plus);
    }

    Return withParts(int line, List<Part> parts) {
        return withLines(l -> l.no() == line ? l.with(parts) : l);
    }

    /** The return once it was decided what becomes of its goods. */
    public Return inspected(List<Effect.InspectionResult> results) {
        var judged = this;
        for (var j : results) {
            judged = judged.withLines(l -> l.no() == j.line() ? l.with(j.part(), j.outcome()) : l);
        }
        return judged;
    }

    /** What was decided on goods and not taken back since, by line and part. */
    public List<Effect.InspectionResult> decided() {
        return lines.stream()
                .flatMap(line -> line.parts().stream()
                        .flatMap(part -> part.decided().stream()
                                .map(outcome -> new Effect.InspectionResult(line.no(), part.no(), outcome))))
                .toList();
    }

    /** The return without the receipts that it has. */
    Return withoutReceipts() {
        return withLines(
                line -> line.withAll(line.parts().stream().map(Part::asReversed).toList()));
    }

    private Return withLines(UnaryOperator<Line> change) {
        return new Return(
                number,
                customer,
                on,
                reason,
                withdrawn,
                lines.stream().map(change).toList());
    }

    Return asWithdrawn() {
        return new Return(number, customer, on, reason, true, lines);
    }
}
