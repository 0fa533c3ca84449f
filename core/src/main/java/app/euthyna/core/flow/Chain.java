package app.euthyna.core.flow;

import app.euthyna.core.order.Committed;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * One order with everything that grew from it, as it stands. All quantities are derived from the documents, never
 * remembered.
 *
 * @param reserved per order line what is held on the shelf and not yet staged
 * @param dispatches all of them, voided ones too, oldest first
 * @param invoices all that bill a line of this order, whole, reversed ones too, oldest first
 * @param deposits for this order, oldest first
 * @param returns all with a line of this order, whole, oldest first
 * @param credits all for one of these invoices, whole, those taken back too, oldest first
 */
public record Chain(
        Order order,
        List<Cancellation> cancellations,
        Map<Integer, Quantity> reserved,
        List<Dispatch> dispatches,
        List<Invoice> invoices,
        List<Deposit> deposits,
        List<Return> returns,
        List<CreditNote> credits) {

    private static final Comparator<Dispatch> IN_TURN = Comparator.comparing(Dispatch::date)
            .thenComparing(dispatch -> dispatch.number().length())
            .thenComparing(Dispatch::number);

    public Chain {
        cancellations = List.copyOf(cancellations);
        // sorted, so that a chain reads the same in every process
        reserved = Collections.unmodifiableMap(new TreeMap<>(reserved));
        dispatches = List.copyOf(dispatches);
        invoices = List.copyOf(invoices);
        deposits = List.copyOf(deposits);
        returns = List.copyOf(returns);
        credits = List.copyOf(credits);
    }

    public static Chain of(Order order) {
        return new Chain(order, List.of(), Map.of(), List.of(), List.of(), List.of(), List.of(), List.of());
    }

    public List<LineFlow> flows() {
        return order.lines().stream().map(this::flow).toList();
    }

    public LineFlow flow(int line) {
        return flow(order.line(line));
    }

    private LineFlow flow(OrderLine line) {
        var cancelled = Quantity.sum(cancellations.stream()
                .flatMap(c -> c.lines().stream())
                .filter(c -> c.orderLine() == line.no())
                .map(Cancellation.Line::quantity)
                .toList());
        var bills = inForce()
                .flatMap(i -> i.lines().stream())
                .filter(i -> i.orderLine().equals(ref(line)))
                .toList();
        return new LineFlow(
                line,
                cancelled,
                reserved.getOrDefault(line.no(), Quantity.ZERO),
                dispatched(line, Dispatch.State.STAGED),
                dispatched(line, Dispatch.State.DEPARTED),
                Quantity.sum(returned(line).map(Return.Part::kept).toList()),
                Quantity.sum(returned(line)
                        .filter(part -> part.standing() != Return.Standing.BILLED)
                        .map(Return.Part::kept)
                        .toList()),
                Quantity.sum(bills.stream().map(Invoice.Line::billed).toList()),
                Quantity.sum(bills.stream().map(Invoice.Line::ahead).toList()),
                Quantity.sum(inForce(credits)
                        .flatMap(c -> c.lines().stream())
                        .filter(c -> c.orderLine().equals(ref(line)))
                        .map(CreditNote.Line::credited)
                        .toList()),
                order.isAtNoCharge(line),
                order.state().isCleared());
    }

    /** Invoices that were not taken back, oldest first. */
    public Stream<Invoice> inForce() {
        return invoices.stream().filter(invoice -> !invoice.reversed());
    }

    /** Those of credit notes that were not taken back. */
    private static Stream<CreditNote> inForce(Collection<CreditNote> credits) {
        return credits.stream().filter(credit -> !credit.reversed());
    }

    private Stream<Return.Part> returned(OrderLine line) {
        return returns.stream()
                .flatMap(r -> r.lines().stream())
                .filter(r -> r.orderLine().equals(ref(line)))
                .flatMap(r -> r.parts().stream());
    }

    private Quantity dispatched(OrderLine line, Dispatch.State state) {
        return Quantity.sum(dispatches.stream()
                .filter(d -> d.state() == state)
                .flatMap(d -> d.lines().stream())
                .filter(d -> d.orderLine() == line.no())
                .map(Dispatch.Line::quantity)
                .toList());
    }

    private LineRef ref(OrderLine line) {
        return new LineRef(order.number(), line.no());
    }

    /**
     * Of each dispatch line that has departed, the quantity and cost that no invoice and no return has taken; oldest
     * departure first.
     */
    public List<Unbilled> unbilled() {
        var takenQuantity = new HashMap<LineRef, Quantity>();
        var takenCost = new HashMap<LineRef, Money>();
        inForce()
                .flatMap(invoice -> invoice.lines().stream())
                .flatMap(line -> line.sources().stream())
                .forEach(source -> {
                    takenQuantity.merge(source.dispatchLine(), source.quantity(), Quantity::plus);
                    takenCost.merge(source.dispatchLine(), source.cost(), Money::plus);
                });
        returns.stream()
                .flatMap(r -> r.lines().stream())
                .forEach(line -> line.parts().stream()
                        .filter(part -> part.standing() != Return.Standing.BILLED)
                        .forEach(part -> {
                            takenQuantity.merge(line.dispatchLine(), part.kept(), Quantity::plus);
                            takenCost.merge(line.dispatchLine(), part.keptCost(), Money::plus);
                        }));
        var unbilled = new ArrayList<Unbilled>();
        for (var dispatch : dispatches) {
            if (dispatch.state() != Dispatch.State.DEPARTED) {
                continue;
            }
            for (var line : dispatch.lines()) {
                var ref = new LineRef(dispatch.number(), line.no());
                unbilled.add(new Unbilled(
                        ref,
                        line,
                        takenQuantity.getOrDefault(ref, Quantity.ZERO),
                        takenCost.getOrDefault(ref, Money.zero(order.currency()))));
            }
        }
        return unbilled;
    }

    /**
     * Of each dispatch line the first day on which an invoice or a return took something of it, also one that was taken
     * back since: before that day all of it was unbilled.
     */
    public Map<LineRef, LocalDate> firstTaken() {
        var first = new HashMap<LineRef, LocalDate>();
        invoices.forEach(invoice -> invoice.lines().stream()
                .flatMap(line -> line.sources().stream())
                .forEach(source -> first.merge(source.dispatchLine(), invoice.on(), Chain::earlier)));
        returns.stream()
                .flatMap(back -> back.lines().stream())
                .forEach(line ->
                        line.parts().forEach(part -> first.merge(line.dispatchLine(), part.on(), Chain::earlier)));
        return first;
    }

    private static LocalDate earlier(LocalDate one, LocalDate other) {
        return one.isBefore(other) ? one : other;
    }

    /** A departed dispatch line with what invoices have taken of it, and what came back unbilled. */
    public record Unbilled(LineRef ref, Dispatch.Line line, Quantity takenQuantity, Money takenCost) {

        public Quantity quantity() {
            return line.quantity().minus(takenQuantity);
        }

        public Money cost() {
            return line.cost().minus(takenCost);
        }

        /** The slice of cost that goes with the next {@code quantity} of the line. */
        public Money slice(Quantity next) {
            return line.cost().slice(takenQuantity.plus(next), line.quantity(), takenCost);
        }
    }

    /**
     * Gross value of what is not dispatched (goods) or not billed (services, charges) yet, at the order's prices. Goods
     * billed ahead are owed already and do not count again.
     */
    public Money openGross() {
        return gross(LineFlow::open);
    }

    /** Gross value of goods that have left and are not billed, at the order's prices. */
    public Money dispatchedNotBilledGross() {
        return gross(flow -> flow.line().kind().isShipped() ? flow.toBill() : Quantity.ZERO);
    }

    private Money gross(Function<LineFlow, Quantity> of) {
        return order.totals(line -> of.apply(flow(line))).gross();
    }

    public boolean nothingToShipOrBill() {
        return flows().stream()
                .allMatch(flow -> flow.toShip().isZero() && flow.toBill().isZero());
    }

    /** Goods that are neither gone nor given up. */
    public boolean stillToLeave() {
        return flows().stream().anyMatch(flow -> flow.toShip().isPositive());
    }

    public boolean anyDeparted() {
        return flows().stream().anyMatch(flow -> flow.dispatched().isPositive());
    }

    public boolean anyBilled() {
        return flows().stream().anyMatch(flow -> flow.billed().isPositive());
    }

    public List<Dispatch> staged() {
        return dispatches.stream()
                .filter(d -> d.state() == Dispatch.State.STAGED)
                .toList();
    }

    /**
     * What each line can't be changed below (section 3: quantity can't fall below what is staged, dispatched or
     * billed).
     */
    public Map<Integer, Committed> committed() {
        return flows().stream().collect(Collectors.toMap(flow -> flow.line().no(), Chain::committed));
    }

    private static Committed committed(LineFlow flow) {
        if (!flow.line().kind().isShipped()) {
            return new Committed(flow.cancelled().plus(flow.billed()), Committed.Reason.BILLED);
        }
        var gone = flow.cancelled().plus(flow.dispatched());
        if (flow.ahead().exceeds(flow.staged())) {
            return new Committed(gone.plus(flow.ahead()), Committed.Reason.BILLED);
        }
        return flow.staged().isPositive()
                ? new Committed(gone.plus(flow.staged()), Committed.Reason.STAGED)
                : new Committed(gone, Committed.Reason.DEPARTED);
    }

    /**
     * The state that the documents give an order which nothing holds: cleared while something is open, ended otherwise
     * (section 3).
     */
    public OrderState settledState() {
        if (!nothingToShipOrBill()) {
            return OrderState.CLEARED;
        }
        var cancelled = flows().stream().anyMatch(flow -> flow.cancelled().isPositive());
        if (!cancelled) {
            return OrderState.COMPLETED;
        }
        return anyDeparted() || anyBilled() ? OrderState.CLOSED_SHORT : OrderState.CANCELLED;
    }

    /** The chain as it would stand after the effect. Effects on other orders leave it as it is. */
    public Chain after(Effect effect) {
        return effect.applyTo(this);
    }

    public Chain after(List<? extends Effect> effects) {
        var chain = this;
        for (var effect : effects) {
            chain = chain.after(effect);
        }
        return chain;
    }

    boolean isOf(String number) {
        return order.number().equals(number);
    }

    /** So much more is reserved for a line, if it is one of this order. */
    Chain reserved(LineRef line, Quantity by) {
        return isOf(line.number()) ? withReserved(line.line(), by) : this;
    }

    /** Staging takes from what is reserved for the lines; voiding gives it back. */
    Chain moved(Dispatch dispatch, boolean fromReserved) {
        if (!isOf(dispatch.order())) {
            return this;
        }
        var moved = this;
        for (var line : dispatch.lines()) {
            moved = moved.withReserved(
                    line.orderLine(), fromReserved ? line.quantity().negated() : line.quantity());
        }
        return moved.withDispatch(dispatch);
    }

    Chain withOrder(Order changed) {
        return new Chain(changed, cancellations, reserved, dispatches, invoices, deposits, returns, credits);
    }

    Chain withReserved(int line, Quantity by) {
        var changed = new TreeMap<>(reserved);
        changed.merge(line, by, Quantity::plus);
        changed.values().removeIf(Quantity::isZero);
        return new Chain(order, cancellations, changed, dispatches, invoices, deposits, returns, credits);
    }

    /** Notes stand by their days, those of the same day by their numbers; departing moves one to its day. */
    Chain withDispatch(Dispatch dispatch) {
        var changed = new ArrayList<>(dispatches);
        if (dispatches.stream().noneMatch(d -> d.number().equals(dispatch.number()))) {
            changed.add(dispatch);
        }
        changed.replaceAll(d -> d.number().equals(dispatch.number()) ? dispatch : d);
        changed.sort(IN_TURN);
        return new Chain(order, cancellations, reserved, changed, invoices, deposits, returns, credits);
    }

    Chain withInvoice(Invoice invoice) {
        return withInvoices(Stream.concat(invoices.stream(), Stream.of(invoice)).toList());
    }

    Chain withInvoiceReversed(String number) {
        return withInvoice(number, Invoice::asReversed);
    }

    Chain withReduction(Reduction reduction) {
        return withInvoice(reduction.invoice(), invoice -> invoice.withReduction(reduction));
    }

    Chain withoutReduction(Reduction reduction) {
        return withInvoice(reduction.invoice(), invoice -> invoice.withoutReduction(reduction));
    }

    private Chain withInvoice(String number, UnaryOperator<Invoice> change) {
        return withInvoices(invoices.stream()
                .map(i -> i.number().equals(number) ? change.apply(i) : i)
                .toList());
    }

    Chain withReturn(Return changed) {
        var others = returns.stream()
                .map(r -> r.number().equals(changed.number()) ? changed : r)
                .toList();
        var all = others.contains(changed)
                ? others
                : Stream.concat(others.stream(), Stream.of(changed)).toList();
        return new Chain(order, cancellations, reserved, dispatches, invoices, deposits, all, credits);
    }

    Chain withCredit(CreditNote credit) {
        return withCredits(
                credit.invoice(),
                invoice -> invoice.withCredit(credit),
                Stream.concat(credits.stream(), Stream.of(credit)).toList());
    }

    Chain withCreditReversed(CreditNote credit) {
        return withCredits(
                credit.invoice(),
                invoice -> invoice.withoutCredit(credit),
                credits.stream()
                        .map(c -> c.number().equals(credit.number()) ? c.asReversed() : c)
                        .toList());
    }

    private Chain withCredits(String invoice, UnaryOperator<Invoice> change, List<CreditNote> changed) {
        return new Chain(
                order,
                cancellations,
                reserved,
                dispatches,
                invoices.stream()
                        .map(i -> i.number().equals(invoice) ? change.apply(i) : i)
                        .toList(),
                deposits,
                returns,
                changed);
    }

    /** A return of the chain becomes what it is after something; other returns are none of the chain's business. */
    Chain withReturnAfter(String number, UnaryOperator<Return> change) {
        return returnOf(number).map(found -> withReturn(change.apply(found))).orElse(this);
    }

    /** A return by its number; empty where none of the order's lines is on one. */
    public Optional<Return> returnOf(String number) {
        return returns.stream().filter(r -> r.number().equals(number)).findFirst();
    }

    /** The chain of an order, which is among those given. */
    public static Chain ofOrder(Collection<Chain> chains, String order) {
        return chains.stream()
                .filter(chain -> chain.order().number().equals(order))
                .findFirst()
                .orElseThrow();
    }

    /** An invoice that stands in one of the chains. */
    public static Invoice invoiceOf(Collection<Chain> chains, String number) {
        return chains.stream()
                .flatMap(chain -> chain.invoices.stream())
                .filter(invoice -> invoice.number().equals(number))
                .findFirst()
                .orElseThrow();
    }

    /** The credit notes in force for an invoice that stand in chains, each once. */
    public static List<CreditNote> creditsFor(Collection<Chain> chains, String invoice) {
        return credits(chains).stream()
                .filter(credit -> credit.invoice().equals(invoice))
                .toList();
    }

    /** The credit notes in force that stand in chains, each once. */
    public static List<CreditNote> credits(Collection<Chain> chains) {
        return inForce(allCredits(chains)).toList();
    }

    /** All credit notes that stand in chains, those taken back too, each once. */
    public static List<CreditNote> allCredits(Collection<Chain> chains) {
        return chains.stream()
                .flatMap(chain -> chain.credits.stream())
                .distinct()
                .toList();
    }

    /** A return that stands in one of the chains. */
    public static Return returnOf(Collection<Chain> chains, String number) {
        return chains.stream()
                .flatMap(chain -> chain.returnOf(number).stream())
                .findFirst()
                .orElseThrow();
    }

    /** The chain with goods that leave noted on the invoice line that had billed them. */
    public Chain withDelivery(BilledAheadDelivery delivery) {
        return withSource(delivery.invoiceLine(), delivery.source());
    }

    Chain withoutDelivery(BilledAheadDelivery delivery) {
        return withSource(delivery.invoiceLine(), delivery.source().negated());
    }

    private Chain withSource(LineRef invoiceLine, Invoice.Source source) {
        return withInvoice(invoiceLine.number(), invoice -> invoice.withSource(invoiceLine.line(), source));
    }

    private Chain withInvoices(List<Invoice> changed) {
        return new Chain(order, cancellations, reserved, dispatches, changed, deposits, returns, credits);
    }

    Chain withDeposit(Deposit added) {
        return withDeposits(Stream.concat(deposits.stream(), Stream.of(added)).toList());
    }

    Chain withDepositUsed(String number, Money used) {
        return withDeposits(deposits.stream()
                .map(d -> d.number().equals(number) ? d.using(used) : d)
                .toList());
    }

    Chain withDepositReversed(String number) {
        return withDeposits(deposits.stream()
                .map(d -> d.number().equals(number) ? d.asReversed() : d)
                .toList());
    }

    private Chain withDeposits(List<Deposit> changed) {
        return new Chain(order, cancellations, reserved, dispatches, invoices, changed, returns, credits);
    }

    /** What customers deposited for the order and is not used. */
    public Money unappliedDeposits() {
        return deposits.stream().map(Deposit::unapplied).reduce(Money.zero(order.currency()), Money::plus);
    }

    Chain withCancellation(Cancellation cancellation) {
        var changed = new ArrayList<>(cancellations);
        changed.add(cancellation);
        return new Chain(order, changed, reserved, dispatches, invoices, deposits, returns, credits);
    }
}
