package app.euthyna.core.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Currency;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Supplier;

/**
 * Credit notes: for goods that came back at the price they were billed, and allowances without goods (section 10). Amounts are slices: an
 * invoice line credited piece by piece comes to its net, and a band of VAT to its VAT, to the cent.
 */
public final class Crediting {

    private Crediting() {
    }

    /** What is credited of an invoice line: a quantity, or an amount of its net where the quantity is zero. */
    public record Share(int invoiceLine, Optional<LineRef> returnLine, Quantity quantity, Optional<Money> amount) {

        public static Share of(int invoiceLine, Quantity quantity) {
            return new Share(invoiceLine, Optional.empty(), quantity, Optional.empty());
        }

        public static Share of(int invoiceLine, Money amount) {
            return new Share(invoiceLine, Optional.empty(), Quantity.ZERO, Optional.of(amount));
        }
    }

    /**
     * How a credit note is made.
     *
     * @param number asked for once for each credit note
     * @param feePercent kept back of what goods are worth, for restocking them
     */
    public record Terms(Supplier<String> number, LocalDate on, String reason, BigDecimal feePercent) {
    }

    /** What was credited of a return's line on one invoice line. */
    static Quantity credited(Collection<CreditNote> credits, LineRef returnLine, LineRef invoiceLine) {
        return Quantity.sum(credits.stream().filter(c -> c.invoice().equals(invoiceLine.number())).flatMap(c -> c.lines().stream())
                .filter(l -> l.invoiceLine() == invoiceLine.line() && l.returnLine().filter(returnLine::equals).isPresent()).map(CreditNote.Line::quantity).toList());
    }

    /** Billed goods of a return that are here and not credited, by invoice, the one that billed them first first. */
    public static Map<String, List<Share>> due(Return goods, Collection<CreditNote> credits) {
        var due = new LinkedHashMap<String, List<Share>>();
        for (var line : goods.lines()) {
            var here = new LinkedHashMap<LineRef, Quantity>();
            line.parts().forEach(part -> part.invoiceLine().ifPresent(invoice -> here.merge(invoice, part.kept(), Quantity::plus)));
            here.forEach((invoiceLine, quantity) -> {
                var ref = new LineRef(goods.number(), line.no());
                var left = quantity.minus(credited(credits, ref, invoiceLine));
                if (left.isPositive()) {
                    due.computeIfAbsent(invoiceLine.number(), i -> new ArrayList<>()).add(new Share(invoiceLine.line(), Optional.of(ref), left, Optional.empty()));
                }
            });
        }
        return due;
    }

    /**
     * Credits the billed goods of a return that are here: a credit note for each invoice that billed them. What allowances have taken of
     * their price before is not credited again.
     *
     * @param open what invoices have open, by number
     */
    public static Decision<List<Effect.Credited>> creditReturn(Return goods, Collection<Chain> chains, Map<String, Money> open, Terms terms) {
        var credits = chains.stream().flatMap(c -> c.credits().stream()).distinct().toList();
        var due = due(goods, credits);
        if (due.isEmpty()) {
            return Decision.refused(new ReturnRefusal.NothingToCredit(goods.number()));
        }
        var made = new ArrayList<Effect.Credited>();
        var refusals = new ArrayList<Refusal>();
        due.forEach((number, shares) -> {
            var invoice = chains.stream().flatMap(Chain::inForce).filter(i -> i.number().equals(number)).findFirst().orElseThrow();
            var creditable = shares.stream().map(share -> new Share(share.invoiceLine(), share.returnLine(),
                    share.quantity().min(left(invoice.line(share.invoiceLine()), of(credits, number))), Optional.empty())).filter(share -> share.quantity().isPositive()).toList();
            if (creditable.isEmpty()) {
                refusals.add(new ReturnRefusal.MoreThanCreditable(number, shares.get(0).invoiceLine(), shares.get(0).quantity().toString(), "0"));
            } else {
                var credited = credit(invoice, of(credits, number), creditable, open.get(number), terms);
                credited.result().ifPresent(made::add);
                refusals.addAll(credited.refusals());
            }
        });
        return made.isEmpty() ? Decision.refused(refusals) : Decision.of(made);
    }

    private static List<CreditNote> of(Collection<CreditNote> credits, String invoice) {
        return credits.stream().filter(c -> c.invoice().equals(invoice)).toList();
    }

    private static Quantity left(Invoice.Line line, List<CreditNote> before) {
        return line.quantity().minus(Quantity.sum(lines(before, line.no()).stream().map(CreditNote.Line::quantity).toList()));
    }

    private static List<CreditNote.Line> lines(List<CreditNote> before, int invoiceLine) {
        return before.stream().flatMap(c -> c.lines().stream()).filter(l -> l.invoiceLine() == invoiceLine).toList();
    }

    /** What of an invoice line's net is not credited. */
    private static Money leftNet(Invoice.Line line, List<CreditNote> before) {
        return lines(before, line.no()).stream().map(CreditNote.Line::net).reduce(line.net(), Money::minus);
    }

    /** All that is left to credit of an invoice, line by line. */
    public static List<Share> everything(Invoice invoice, List<CreditNote> before) {
        return invoice.lines().stream().filter(line -> leftNet(line, before).isPositive()).map(line -> left(line, before).isPositive()
                ? new Share(line.no(), Optional.empty(), left(line, before), Optional.empty()) : Share.of(line.no(), leftNet(line, before))).toList();
    }

    /**
     * Credits lines of an invoice, goods or not.
     *
     * @param before the invoice's credit notes so far
     * @param open what the invoice has open
     */
    public static Decision<Effect.Credited> credit(Invoice invoice, List<CreditNote> before, List<Share> shares, Money open, Terms terms) {
        var refusals = new ArrayList<Refusal>();
        if (terms.reason().isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "why it is credited"));
        }
        if (invoice.reversed()) {
            refusals.add(new ReturnRefusal.InvoiceReversed(invoice.number()));
        }
        if (shares.isEmpty()) {
            refusals.add(new ReturnRefusal.MoreThanCreditable(invoice.number(), 0, "more", "nothing"));
        }
        var quantities = new HashMap<Integer, Quantity>();
        var amounts = new HashMap<Integer, Money>();
        for (var share : shares) {
            var found = invoice.lines().stream().filter(line -> line.no() == share.invoiceLine()).findFirst();
            if (found.isEmpty()) {
                refusals.add(new CommonRefusal.NotFound("line", share.invoiceLine() + " on invoice " + invoice.number()));
                continue;
            }
            var line = found.get();
            if (share.amount().isPresent()) {
                var wanted = amounts.merge(line.no(), share.amount().get(), Money::plus);
                if (!share.amount().get().isPositive()) {
                    refusals.add(CommonRefusal.Incomplete.of("lines[" + line.no() + "].amount", "an amount above zero"));
                } else if (wanted.compareTo(leftNet(line, before)) > 0) {
                    refusals.add(new ReturnRefusal.MoreThanCreditable(invoice.number(), line.no(), wanted.toString(), leftNet(line, before).toString()));
                }
            } else if (!share.quantity().isPositive()) {
                refusals.add(CommonRefusal.Incomplete.of("lines[" + line.no() + "].quantity", "a quantity above zero"));
            } else {
                var wanted = quantities.merge(line.no(), share.quantity(), Quantity::plus);
                if (wanted.exceeds(left(line, before))) {
                    refusals.add(new ReturnRefusal.MoreThanCreditable(invoice.number(), line.no(), wanted.toString(), left(line, before).toString()));
                }
            }
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var currency = invoice.totals().gross().currency();
        var lines = new ArrayList<CreditNote.Line>();
        for (var share : shares) {
            lines.add(line(lines, invoice.line(share.invoiceLine()), before, share, terms, currency));
        }
        var totals = totals(invoice, before, lines, currency);
        if (!totals.gross().isPositive()) {
            return Decision.refused(new ReturnRefusal.MoreThanCreditable(invoice.number(), shares.get(0).invoiceLine(), "more", Money.zero(currency).toString()));
        }
        var credit = new CreditNote(terms.number().get(), invoice.customer(), invoice.number(), terms.on(), terms.reason(), lines, totals);
        return Decision.of(new Effect.Credited(credit, invoice, totals.gross().min(open)));
    }

    /**
     * One line of a credit note: what the cumulative quantity was billed at, less what was credited by quantity before, and never more than is
     * left of the line's net.
     */
    private static CreditNote.Line line(List<CreditNote.Line> sofar, Invoice.Line line, List<CreditNote> before, Share share, Terms terms, Currency currency) {
        var earlier = new ArrayList<>(lines(before, line.no()));
        sofar.stream().filter(l -> l.invoiceLine() == line.no()).forEach(earlier::add);
        var left = earlier.stream().map(CreditNote.Line::worth).reduce(line.net(), Money::minus).max(Money.zero(currency));
        Money worth;
        if (share.amount().isPresent()) {
            worth = share.amount().get();
        } else {
            var byQuantity = earlier.stream().filter(l -> l.quantity().isPositive()).toList();
            var cumulative = Quantity.sum(byQuantity.stream().map(CreditNote.Line::quantity).toList()).plus(share.quantity());
            var taken = byQuantity.stream().map(CreditNote.Line::worth).reduce(Money.zero(currency), Money::plus);
            worth = line.price().net(cumulative, currency).minus(taken).max(Money.zero(currency)).min(left);
        }
        var fee = share.returnLine().isPresent() ? Money.rounded(worth.amount().multiply(terms.feePercent()).movePointLeft(2), currency) : Money.zero(currency);
        return new CreditNote.Line(sofar.size() + 1, line.no(), line.orderLine(), share.returnLine(), line.item(), line.description(), share.quantity(), worth.minus(fee), fee,
                line.vat());
    }

    /** VAT by band: what is due on all that is credited so far at the band's rate, less what was credited of it (BR-CO-17 of EN 16931-1 on the sum). */
    private static Totals totals(Invoice invoice, List<CreditNote> before, List<CreditNote.Line> lines, Currency currency) {
        var nets = new TreeMap<Vat, Money>();
        lines.forEach(line -> nets.merge(line.vat(), line.net(), Money::plus));
        var bands = new ArrayList<Totals.Band>();
        var net = Money.zero(currency);
        var vat = Money.zero(currency);
        for (var entry : nets.entrySet()) {
            var earlier = before.stream().flatMap(c -> c.totals().bands().stream()).filter(b -> b.vat().equals(entry.getKey())).toList();
            var taxable = earlier.stream().map(Totals.Band::taxable).reduce(entry.getValue(), Money::plus);
            var taken = earlier.stream().map(Totals.Band::tax).reduce(Money.zero(currency), Money::plus);
            var tax = Money.rounded(taxable.amount().multiply(entry.getKey().ratePercent()).movePointLeft(2), currency).minus(taken).max(Money.zero(currency));
            bands.add(new Totals.Band(entry.getKey(), entry.getValue(), tax));
            net = net.plus(entry.getValue());
            vat = vat.plus(tax);
        }
        return new Totals(net, vat, net.plus(vat), bands);
    }
}
