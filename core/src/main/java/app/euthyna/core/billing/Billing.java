package app.euthyna.core.billing;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.LineFlow;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderRefusal;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Totals;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;

/** What can be billed of one or several orders of a customer, on one invoice (section 7). */
public final class Billing {

    private Billing() {}

    /** A quantity asked for of an order line. */
    public record Share(LineRef orderLine, Quantity quantity) {}

    /**
     * What an invoice is to be like.
     *
     * @param number given at posting
     * @param termsDays from the invoice's date to its due date
     * @param text above the lines; may be empty
     * @param ahead goods may be billed that have not left; their revenue is deferred until they do
     * @param earlyPayment a discount for paying early; empty where none is agreed
     */
    public record Terms(
            String number,
            LocalDate on,
            int termsDays,
            String text,
            boolean ahead,
            Optional<EarlyPaymentTerms> earlyPayment) {

        /** Without a discount for paying early. */
        public Terms(String number, LocalDate on, int termsDays, String text, boolean ahead) {
            this(number, on, termsDays, text, ahead, Optional.empty());
        }
    }

    /**
     * Bills the shares asked for, or all that can be billed of the orders where {@code shares} is empty. Goods are
     * taken from the oldest departure first and carry their slice of its cost; what has not left is billed ahead where
     * that is asked for and the kind of order allows it (IFRS 15.31: revenue when control passes).
     *
     * @param aheadOf kinds of order that may be billed ahead
     */
    public static Decision<Effect.InvoicePosted> bill(
            String customer, List<Chain> chains, List<Share> shares, Terms terms, Set<OrderKind> aheadOf) {
        var refusals = new ArrayList<Refusal>();
        for (var chain : chains) {
            var order = chain.order();
            if (!order.customer().equals(customer)) {
                refusals.add(new CommonRefusal.WrongCustomer("order " + order.number(), order.customer(), customer));
            } else if (!order.state().isCleared()) {
                refusals.add(new OrderRefusal.NotCleared(order.number(), order.state()));
            } else if (terms.ahead() && !aheadOf.contains(order.kind())) {
                refusals.add(new BillingRefusal.NotAhead(order.number(), order.kind()));
            }
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var byOrder = chains.stream().collect(Collectors.toMap(c -> c.order().number(), Function.identity()));
        var wanted = shares.isEmpty() ? everything(chains, terms.ahead()) : asked(shares, byOrder, refusals);
        if (shares.isEmpty() && wanted.isEmpty()) {
            chains.forEach(chain -> refusals.add(nothing(chain)));
        }
        wanted.forEach(
                (line, quantity) -> refuse(byOrder.get(line.number()).flow(line.line()), line, quantity, terms.ahead())
                        .ifPresent(refusals::add));
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var lines = new ArrayList<Invoice.Line>();
        wanted.forEach(
                (line, quantity) -> lines.add(line(lines.size() + 1, byOrder.get(line.number()), line, quantity)));
        var currency = chains.get(0).order().currency();
        var totals = Totals.of(
                lines.stream().map(l -> new Totals.Part(l.net(), l.vat())).toList(), currency);
        return Decision.of(new Effect.InvoicePosted(new Invoice(
                terms.number(),
                customer,
                terms.on(),
                terms.on().plusDays(terms.termsDays()),
                terms.text(),
                false,
                lines,
                totals,
                terms.earlyPayment().map(agreed -> agreed.on(terms.on())),
                List.of())));
    }

    private static Map<LineRef, Quantity> everything(List<Chain> chains, boolean ahead) {
        var all = new TreeMap<LineRef, Quantity>(Comparator.comparing((LineRef l) -> position(chains, l.number()))
                .thenComparing(LineRef::line));
        for (var chain : chains) {
            for (var flow : chain.flows()) {
                if (most(flow, ahead).isPositive()) {
                    all.put(new LineRef(chain.order().number(), flow.line().no()), most(flow, ahead));
                }
            }
        }
        return all;
    }

    private static Quantity most(LineFlow flow, boolean ahead) {
        return ahead ? flow.toBillAhead() : flow.toBill();
    }

    private static int position(List<Chain> chains, String order) {
        return chains.stream().map(c -> c.order().number()).toList().indexOf(order);
    }

    private static Map<LineRef, Quantity> asked(
            List<Share> shares, Map<String, Chain> byOrder, List<Refusal> refusals) {
        // in the sequence asked for: the first line is the first that was named
        var asked = new LinkedHashMap<LineRef, Quantity>();
        for (var share : shares) {
            var line = share.orderLine();
            if (!byOrder.containsKey(line.number())
                    || !byOrder.get(line.number()).order().hasLine(line.line())) {
                refusals.add(new CommonRefusal.NotFound("order line", line.toString()));
            } else if (!share.quantity().isPositive()) {
                refusals.add(CommonRefusal.Incomplete.of("lines[" + line + "].quantity", "a quantity above zero"));
            } else {
                asked.merge(line, share.quantity(), Quantity::plus);
            }
        }
        return asked;
    }

    private static Optional<Refusal> refuse(LineFlow flow, LineRef line, Quantity quantity, boolean ahead) {
        var most = most(flow, ahead);
        if (!quantity.exceeds(most)) {
            return Optional.empty();
        }
        if (!flow.open().isPositive() && !most.isPositive()) {
            return Optional.of(new BillingRefusal.AlreadyBilled("line " + line.line() + " of order " + line.number()));
        }
        return Optional.of(
                flow.line().kind().isShipped() && !ahead
                        ? new BillingRefusal.MoreThanDispatched(
                                line.number(), line.line(), quantity, flow.dispatched(), flow.billed())
                        : new BillingRefusal.MoreThanOpen(line.number(), line.line(), quantity, most));
    }

    private static Refusal nothing(Chain chain) {
        return chain.nothingToShipOrBill()
                ? new BillingRefusal.AlreadyBilled("order " + chain.order().number())
                : new BillingRefusal.NothingToBill(chain.order().number());
    }

    private static Invoice.Line line(int no, Chain chain, LineRef ref, Quantity quantity) {
        var line = chain.order().line(ref.line());
        var currency = chain.order().currency();
        var sources = new ArrayList<Invoice.Source>();
        var left = line.kind().isShipped() ? quantity : Quantity.ZERO;
        if (line.kind().isShipped()) {
            for (var unbilled : chain.unbilled()) {
                if (unbilled.line().orderLine() == line.no()
                        && unbilled.quantity().isPositive()
                        && left.isPositive()) {
                    var taken = left.min(unbilled.quantity());
                    sources.add(Invoice.Source.ofGone(unbilled.ref(), taken, unbilled.slice(taken)));
                    left = left.minus(taken);
                }
            }
        }
        var net = line.net(quantity, currency);
        var deferred = left.isPositive()
                ? net.minus(net.slice(quantity.minus(left), quantity, Money.zero(currency)))
                : Money.zero(currency);
        return new Invoice.Line(
                no,
                ref,
                line.kind(),
                line.item(),
                line.description(),
                quantity,
                line.price(),
                net,
                deferred,
                line.vat(),
                sources,
                List.of());
    }

    /** Cost of the goods that an invoice bills. */
    public static Money cost(Invoice invoice) {
        return invoice.lines().stream()
                .flatMap(l -> l.sources().stream())
                .map(Invoice.Source::cost)
                .reduce(Money.zero(invoice.totals().gross().currency()), Money::plus);
    }
}
