package app.euthyna.core.flow;

import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A posted invoice over lines of one or several orders of a customer.
 *
 * @param text that stands on it above the lines; may be empty
 * @param reversed it was taken back: it stays on record and counts no more
 * @param earlyPayment what was agreed for paying early; empty where nothing was
 * @param reductions what of it was settled without money, oldest first; those taken back are not among them
 */
public record Invoice(
        String number,
        String customer,
        LocalDate on,
        LocalDate dueOn,
        String text,
        boolean reversed,
        List<Line> lines,
        Totals totals,
        Optional<EarlyPayment> earlyPayment,
        List<Reduction> reductions) {

    /** An invoice without a discount for paying early, of which nothing was settled without money. */
    public Invoice(
            String number,
            String customer,
            LocalDate on,
            LocalDate dueOn,
            String text,
            boolean reversed,
            List<Line> lines,
            Totals totals) {
        this(number, customer, on, dueOn, text, reversed, lines, totals, Optional.empty(), List.of());
    }

    /**
     * A discount for paying early (section 16).
     *
     * @param percent of what the invoice comes to with its credits
     * @param until the last day on which it may be taken
     */
    public record EarlyPayment(BigDecimal percent, LocalDate until) {
        public EarlyPayment {
            percent = percent.setScale(2, RoundingMode.UNNECESSARY);
        }
    }

    /**
     * What is billed of one order line, and which dispatched goods it bills, oldest departure first.
     *
     * @param deferred the part of the net that was billed ahead of dispatch, as it stood when the invoice was posted
     * @param sources empty for services and charges
     * @param takenBack what credits have taken back of the billing of goods that had not left
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
            List<Source> sources,
            List<TakenBack> takenBack) {
        public Line {
            sources = List.copyOf(sources);
            takenBack = List.copyOf(takenBack);
        }

        /** What of the quantity is billed still: without what was taken back before it left. */
        public Quantity billed() {
            return quantity.minus(withdrawn());
        }

        private Quantity withdrawn() {
            return Quantity.sum(takenBack.stream().map(TakenBack::quantity).toList());
        }

        /** Billed and not gone yet. Services and charges are never ahead. */
        public Quantity ahead() {
            return kind.isShipped() ? billed().minus(delivered()) : Quantity.ZERO;
        }

        private Quantity delivered() {
            return Quantity.sum(sources.stream().map(Source::quantity).toList());
        }

        /** What of the net is still deferred. */
        public Money unearned() {
            return takenBack.stream()
                    .map(TakenBack::net)
                    .reduce(sources.stream().map(Source::earned).reduce(deferred, Money::minus), Money::minus);
        }

        /**
         * The slice of the net that is earned when {@code next} more of the line leaves (section 1, slices; IFRS
         * 15.31), or that is deferred no more when their billing is taken back: both slice one whole. Where an
         * allowance has lowered what is deferred, it is the part of what is left.
         */
        public Money earnedWith(Quantity next) {
            var allowed = takenBack.stream().anyMatch(one -> one.quantity().isZero());
            return allowed
                    ? unearned().slice(next, ahead(), Money.zero(net.currency()))
                    : net.slice(delivered().plus(withdrawn()).plus(next), quantity, net.minus(unearned()));
        }

        /** The part of an allowance of an amount that falls on goods which have not left. */
        public Money deferredOf(Money allowance) {
            return ahead().isPositive()
                    ? allowance
                            .slice(ahead(), billed(), Money.zero(net.currency()))
                            .min(unearned())
                    : Money.zero(net.currency());
        }

        /** The line once lines of a credit note for its invoice have taken back of it what they do. */
        public Line withCredits(List<CreditNote.Line> credited) {
            return with(
                    sources,
                    Stream.concat(takenBack.stream(), takenBackBy(credited)).toList());
        }

        /** The line once a credit note with these lines was taken back. */
        Line withoutCredits(List<CreditNote.Line> credited) {
            var left = new ArrayList<>(takenBack);
            takenBackBy(credited).forEach(left::remove);
            return with(sources, left);
        }

        private Stream<TakenBack> takenBackBy(List<CreditNote.Line> credited) {
            return credited.stream()
                    .filter(one -> one.invoiceLine() == no
                            && (one.ahead().isPositive() || !one.deferred().isZero()))
                    .map(one -> new TakenBack(one.ahead(), one.deferred()));
        }

        Line with(Source source) {
            return with(Stream.concat(sources.stream(), Stream.of(source)).toList(), takenBack);
        }

        private Line with(List<Source> sources, List<TakenBack> takenBack) {
            return new Line(
                    no, orderLine, kind, item, description, quantity, price, net, deferred, vat, sources, takenBack);
        }
    }

    /**
     * What a credit note took back of a line's billing ahead.
     *
     * @param quantity that has not left and is billed no more; zero for an allowance of an amount
     * @param net that is deferred no more
     */
    public record TakenBack(Quantity quantity, Money net) {}

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
        reductions = List.copyOf(reductions);
    }

    /** What of it was written off. */
    public List<Reduction> writtenOff() {
        return reductions.stream().filter(one -> !one.isDiscount()).toList();
    }

    /** The discount that was taken on it. */
    public Optional<Reduction> discount() {
        return reductions.stream().filter(one -> one.isDiscount()).findFirst();
    }

    Invoice withReduction(Reduction reduction) {
        return with(
                reversed,
                lines,
                Stream.concat(reductions.stream(), Stream.of(reduction)).toList());
    }

    Invoice withoutReduction(Reduction reduction) {
        return with(
                reversed,
                lines,
                reductions.stream().filter(one -> !one.isSameAs(reduction)).toList());
    }

    private Invoice with(boolean reversed, List<Line> lines, List<Reduction> reductions) {
        return new Invoice(number, customer, on, dueOn, text, reversed, lines, totals, earlyPayment, reductions);
    }

    Invoice withSource(int line, Source source) {
        return withLines(l -> l.no() == line ? l.with(source) : l);
    }

    /** The invoice once a credit note for it was posted. */
    Invoice withCredit(CreditNote credit) {
        return withLines(line -> line.withCredits(credit.lines()));
    }

    /** The invoice once a credit note for it was taken back. */
    Invoice withoutCredit(CreditNote credit) {
        return withLines(line -> line.withoutCredits(credit.lines()));
    }

    private Invoice withLines(UnaryOperator<Line> change) {
        return with(reversed, lines.stream().map(change).toList(), reductions);
    }

    Invoice asReversed() {
        return with(true, lines, reductions);
    }

    public Line line(int no) {
        return lines.stream()
                .filter(line -> line.no() == no)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("invoice " + number + " has no line " + no));
    }

    /** The orders that stand on it. */
    public Set<String> orders() {
        return lines.stream().map(line -> line.orderLine().number()).collect(Collectors.toSet());
    }

    public boolean bills(String order) {
        return lines.stream().anyMatch(line -> line.orderLine().number().equals(order));
    }
}
