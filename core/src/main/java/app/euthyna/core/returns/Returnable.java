package app.euthyna.core.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** What of an order's goods may come back, and how the company stands with them. */
public record Returnable(Chain chain) {

    /** A departed dispatch line; empty where there is none of that number. */
    public Optional<Dispatch.Line> departed(LineRef dispatchLine) {
        return chain.dispatches().stream()
                .filter(d -> d.number().equals(dispatchLine.number()) && d.state() == Dispatch.State.DEPARTED)
                .flatMap(d -> d.lines().stream())
                .filter(line -> line.no() == dispatchLine.line())
                .findFirst();
    }

    /** What of a dispatch line is still out and not allowed back yet. */
    public Quantity of(LineRef dispatchLine) {
        return departed(dispatchLine)
                .map(Dispatch.Line::quantity)
                .orElse(Quantity.ZERO)
                .minus(allowed(line -> line.dispatchLine().equals(dispatchLine)));
    }

    /** What of an invoice line came from a dispatch line and may still come back from it. */
    public Quantity of(LineRef invoiceLine, LineRef dispatchLine) {
        var onInvoice = billed(invoiceLine, dispatchLine).quantity();
        return onInvoice
                .minus(allowed(
                        line -> line.invoiceLine().filter(invoiceLine::equals).isPresent()
                                && line.dispatchLine().equals(dispatchLine)))
                .min(of(dispatchLine));
    }

    private Quantity allowed(Predicate<Return.Line> which) {
        var taken = Quantity.ZERO;
        for (var goods : chain.returns()) {
            for (var line : goods.lines()) {
                if (which.test(line)) {
                    taken = taken.plus(line.returned()).plus(goods.expected(line));
                }
            }
        }
        return taken;
    }

    /** The goods of dispatch lines that an invoice line bills, net of what was undone. */
    public static List<LineRef> dispatchLines(Invoice.Line line) {
        return line.sources().stream()
                .map(Invoice.Source::dispatchLine)
                .distinct()
                .filter(ref -> sum(line, ref).quantity().isPositive())
                .toList();
    }

    /** Goods of one dispatch line on one invoice line, with their cost. */
    record Billed(LineRef invoiceLine, Quantity quantity, Money cost) {}

    Billed billed(LineRef invoiceLine, LineRef dispatchLine) {
        return billedOf(dispatchLine)
                .filter(billed -> billed.invoiceLine().equals(invoiceLine))
                .findFirst()
                .orElse(new Billed(
                        invoiceLine, Quantity.ZERO, Money.zero(chain.order().currency())));
    }

    /** Invoice lines in force that bill goods of a dispatch line, the oldest invoice first. */
    private Stream<Billed> billedOf(LineRef dispatchLine) {
        return chain.inForce()
                .flatMap(invoice -> invoice.lines().stream()
                        .filter(line -> line.sources().stream()
                                .anyMatch(s -> s.dispatchLine().equals(dispatchLine)))
                        .map(line -> {
                            var sum = sum(line, dispatchLine);
                            return new Billed(new LineRef(invoice.number(), line.no()), sum.quantity(), sum.cost());
                        }));
    }

    private static Invoice.Source sum(Invoice.Line line, LineRef dispatchLine) {
        return line.sources().stream()
                .filter(s -> s.dispatchLine().equals(dispatchLine))
                .reduce((a, b) -> new Invoice.Source(
                        dispatchLine,
                        a.quantity().plus(b.quantity()),
                        a.cost().plus(b.cost()),
                        a.ahead(),
                        a.earned().plus(b.earned())))
                .orElseThrow();
    }

    /**
     * How goods that come back on a return's line stood, oldest claim first: what was not billed, then what was billed,
     * of the oldest invoice first; where the return was authorised from an invoice, its goods before all others, and
     * what was credited before it came before those. Each with its slice of the cost.
     */
    List<Standing> standings(String number, Return.Line line, Quantity quantity) {
        var found = new ArrayList<Standing>();
        var left = quantity;
        var noCharge = chain.flow(line.orderLine().line()).atNoCharge();
        var candidates = new ArrayList<Standing>();
        chain.unbilled().stream()
                .filter(u -> u.ref().equals(line.dispatchLine()) && u.quantity().isPositive())
                .forEach(u -> candidates.add(new Standing(
                        noCharge ? Return.Standing.GIVEN_AWAY : Return.Standing.UNBILLED,
                        Optional.empty(),
                        u.quantity(),
                        u::slice)));
        billedOf(line.dispatchLine()).forEach(billed -> {
            var back = parts(billed.invoiceLine(), line.dispatchLine()).toList();
            var takenQuantity =
                    Quantity.sum(back.stream().map(Return.Part::kept).toList());
            var takenCost = back.stream()
                    .map(Return.Part::keptCost)
                    .reduce(Money.zero(chain.order().currency()), Money::plus);
            var standing = new Standing(
                    Return.Standing.BILLED,
                    Optional.of(billed.invoiceLine()),
                    billed.quantity().minus(takenQuantity),
                    next -> billed.cost().slice(takenQuantity.plus(next), billed.quantity(), takenCost));
            candidates.add(line.invoiceLine().equals(standing.invoiceLine()) ? 0 : candidates.size(), standing);
        });
        // what the customer has the money for already comes first, but only so much of it
        var taken = new LinkedHashMap<Standing, Quantity>();
        var credits = Chain.credits(List.of(chain));
        for (var candidate : candidates) {
            var ahead = candidate
                    .invoiceLine()
                    .map(billed -> Crediting.ahead(number, line, billed, credits))
                    .orElse(Quantity.ZERO);
            left = left.minus(take(candidate, left.min(ahead), taken));
        }
        for (var candidate : candidates) {
            left = left.minus(take(candidate, left, taken));
        }
        if (left.isPositive()) {
            throw new IllegalStateException("%s of %s have no standing: %s".formatted(left, line, chain));
        }
        taken.forEach((candidate, of) ->
                found.add(new Standing(candidate.standing(), candidate.invoiceLine(), of, candidate.cost())));
        return found;
    }

    private static Quantity take(Standing candidate, Quantity wanted, Map<Standing, Quantity> taken) {
        var now = wanted.min(candidate.quantity().minus(taken.getOrDefault(candidate, Quantity.ZERO)))
                .max(Quantity.ZERO);
        if (now.isPositive()) {
            taken.merge(candidate, now, Quantity::plus);
        }
        return now;
    }

    /** A quantity that stands alike, and what the next so many of it cost. */
    record Standing(
            Return.Standing standing,
            Optional<LineRef> invoiceLine,
            Quantity quantity,
            Function<Quantity, Money> cost) {}

    private Stream<Return.Part> parts(LineRef invoiceLine, LineRef dispatchLine) {
        return chain.returns().stream()
                .flatMap(r -> r.lines().stream())
                .filter(line -> line.dispatchLine().equals(dispatchLine))
                .flatMap(line -> line.parts().stream())
                .filter(part -> part.invoiceLine().filter(invoiceLine::equals).isPresent());
    }
}
