package app.euthyna.core.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Return;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Currency;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;

/**
 * Credit notes: for goods that came back at the price they were billed, and allowances without goods (section 10).
 * Amounts are slices: an invoice line credited piece by piece comes to its net, and a band of VAT to its VAT, to the
 * cent.
 */
public final class Crediting {

    private Crediting() {}

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
     * @param feePercent retained of what goods are worth, for restocking them
     * @param freight what the freight of goods was billed at is credited with them, in the proportion of what comes
     *     back
     */
    public record Terms(Supplier<String> number, LocalDate on, String reason, BigDecimal feePercent, boolean freight) {}

    /** What was credited of a return's line on one invoice line. */
    static Quantity credited(Collection<CreditNote> credits, LineRef returnLine, LineRef invoiceLine) {
        return Quantity.sum(credits.stream()
                .filter(c -> c.invoice().equals(invoiceLine.number()))
                .flatMap(c -> c.lines().stream())
                .filter(l -> l.invoiceLine() == invoiceLine.line()
                        && l.returnLine().filter(returnLine::equals).isPresent())
                .map(CreditNote.Line::quantity)
                .toList());
    }

    /** What of an invoice line was credited on a return's line beyond what is here of it. */
    static Quantity ahead(String number, Return.Line line, LineRef invoiceLine, Collection<CreditNote> credits) {
        var here = Quantity.sum(line.parts().stream()
                .filter(part -> part.invoiceLine().filter(invoiceLine::equals).isPresent())
                .map(Return.Part::kept)
                .toList());
        return credited(credits, new LineRef(number, line.no()), invoiceLine)
                .minus(here)
                .max(Quantity.ZERO);
    }

    /** What the customer has the money for though it has not come on a return's line. */
    public static Quantity ahead(Return goods, Return.Line line, Collection<CreditNote> credits) {
        return Quantity.sum(creditedFor(goods, line, credits).stream()
                .map(invoiceLine -> ahead(goods.number(), line, invoiceLine, credits))
                .toList());
    }

    private static List<LineRef> creditedFor(Return goods, Return.Line line, Collection<CreditNote> credits) {
        var ref = new LineRef(goods.number(), line.no());
        return credits.stream()
                .flatMap(c -> c.lines().stream()
                        .filter(l -> l.returnLine().filter(ref::equals).isPresent())
                        .map(l -> new LineRef(c.invoice(), l.invoiceLine())))
                .distinct()
                .toList();
    }

    /** Billed goods of a return that are here and not credited, by invoice, the one that billed them first first. */
    public static Map<String, List<Share>> due(Return goods, Collection<Chain> chains) {
        return due(goods, chains, false);
    }

    /** The same with what is expected back, as it would stand if it came now. */
    private static Map<String, List<Share>> due(Return goods, Collection<Chain> chains, boolean ahead) {
        var credits = Chain.credits(chains);
        var due = new LinkedHashMap<String, List<Share>>();
        for (var line : goods.lines()) {
            var counted = new LinkedHashMap<LineRef, Quantity>();
            line.parts()
                    .forEach(part -> part.invoiceLine()
                            .ifPresent(invoice -> counted.merge(invoice, part.kept(), Quantity::plus)));
            if (ahead && goods.expected(line).isPositive()) {
                var chain = Chain.ofOrder(chains, line.orderLine().number());
                new Returnable(chain)
                        .standings(goods.number(), line, goods.expected(line))
                        .forEach(standing -> standing.invoiceLine()
                                .ifPresent(invoice -> counted.merge(invoice, standing.quantity(), Quantity::plus)));
            }
            counted.forEach((invoiceLine, quantity) -> {
                var ref = new LineRef(goods.number(), line.no());
                var left = quantity.minus(credited(credits, ref, invoiceLine));
                if (left.isPositive()) {
                    due.computeIfAbsent(invoiceLine.number(), i -> new ArrayList<>())
                            .add(new Share(invoiceLine.line(), Optional.of(ref), left, Optional.empty()));
                }
            });
        }
        return due;
    }

    /**
     * Credits the billed goods of a return that are here: a credit note for each invoice that billed them. What
     * allowances have taken of their price before is not credited again.
     *
     * @param open what invoices have open, by number
     */
    public static Decision<List<Effect.CreditNotePosted>> creditReturn(
            Return goods, Collection<Chain> chains, Map<String, Money> open, Terms terms) {
        return credit(goods, due(goods, chains), chains, open, terms);
    }

    /** Credits what is here and what is still expected back, where the company grants that for the return's reason. */
    public static Decision<List<Effect.CreditNotePosted>> creditAhead(
            Return goods, Collection<Chain> chains, Map<String, Money> open, Terms terms, ReturnPolicy policy) {
        var reason = policy.reason(goods.reason());
        return goods.expectsMore() && !reason.ahead()
                ? Decision.refused(new ReturnRefusal.NotAhead(goods.number(), reason.words()))
                : credit(goods, due(goods, chains, true), chains, open, terms);
    }

    private static Decision<List<Effect.CreditNotePosted>> credit(
            Return goods,
            Map<String, List<Share>> due,
            Collection<Chain> chains,
            Map<String, Money> open,
            Terms terms) {
        if (due.isEmpty()) {
            return Decision.refused(new ReturnRefusal.NothingToCredit(goods.number()));
        }
        var credits = Chain.credits(chains);
        var made = new ArrayList<Effect.CreditNotePosted>();
        var refusals = new ArrayList<Refusal>();
        due.forEach((number, shares) -> {
            var invoice = invoice(number, chains);
            var creditable = withinWhatIsLeft(shares, invoice, of(credits, number));
            if (creditable.isEmpty()) {
                refusals.add(new ReturnRefusal.MoreThanCreditable(
                        number,
                        shares.get(0).invoiceLine(),
                        shares.get(0).quantity().toString(),
                        "0"));
            } else {
                var credited = credit(invoice, of(credits, number), creditable, open.get(number), terms);
                credited.result().ifPresent(made::add);
                refusals.addAll(credited.refusals());
            }
        });
        return made.isEmpty() ? Decision.refused(refusals) : Decision.of(made);
    }

    private static Invoice invoice(String number, Collection<Chain> chains) {
        return chains.stream()
                .flatMap(Chain::inForce)
                .filter(i -> i.number().equals(number))
                .findFirst()
                .orElseThrow();
    }

    /** Allowances may have taken what is due; several shares of one line take what is left one after another. */
    private static List<Share> withinWhatIsLeft(List<Share> due, Invoice invoice, List<CreditNote> before) {
        var taken = new HashMap<Integer, Quantity>();
        var within = new ArrayList<Share>();
        for (var share : due) {
            var left = left(invoice.line(share.invoiceLine()), before)
                    .minus(taken.getOrDefault(share.invoiceLine(), Quantity.ZERO));
            var quantity = share.quantity().min(left);
            if (quantity.isPositive()) {
                taken.merge(share.invoiceLine(), quantity, Quantity::plus);
                within.add(new Share(share.invoiceLine(), share.returnLine(), quantity, Optional.empty()));
            }
        }
        return within;
    }

    /**
     * What the company and a customer owe each other for a return.
     *
     * @param toCredit net value of billed goods that are here and not credited, before any fee
     * @param ahead net value at the invoices' prices of what was credited and is not here
     */
    public record Owed(Money toCredit, Money ahead) {}

    public static Owed owed(Return goods, Collection<Chain> chains, Currency currency) {
        var credits = Chain.credits(chains);
        var toCredit = Money.zero(currency);
        for (var due : due(goods, chains).entrySet()) {
            var invoice = invoice(due.getKey(), chains);
            var lines = new ArrayList<CreditNote.Line>();
            for (var share : withinWhatIsLeft(due.getValue(), invoice, of(credits, due.getKey()))) {
                lines.add(line(
                        lines,
                        invoice.line(share.invoiceLine()),
                        of(credits, due.getKey()),
                        share,
                        BigDecimal.ZERO,
                        currency));
            }
            toCredit = lines.stream().map(CreditNote.Line::worth).reduce(toCredit, Money::plus);
        }
        var ahead = Money.zero(currency);
        for (var line : goods.lines()) {
            for (var invoiceLine : creditedFor(goods, line, credits)) {
                ahead = ahead.plus(invoice(invoiceLine.number(), chains)
                        .line(invoiceLine.line())
                        .price()
                        .net(ahead(goods.number(), line, invoiceLine, credits), currency));
            }
        }
        return new Owed(toCredit, ahead);
    }

    private static List<CreditNote> of(Collection<CreditNote> credits, String invoice) {
        return credits.stream().filter(c -> c.invoice().equals(invoice)).toList();
    }

    private static Quantity left(Invoice.Line line, List<CreditNote> before) {
        return line.quantity()
                .minus(Quantity.sum(lines(before, line.no()).stream()
                        .map(CreditNote.Line::quantity)
                        .toList()));
    }

    private static List<CreditNote.Line> lines(List<CreditNote> before, int invoiceLine) {
        return before.stream()
                .flatMap(c -> c.lines().stream())
                .filter(l -> l.invoiceLine() == invoiceLine)
                .toList();
    }

    /** What of an invoice line's net is not credited. */
    private static Money leftNet(Invoice.Line line, List<CreditNote> before) {
        return lines(before, line.no()).stream().map(CreditNote.Line::net).reduce(line.net(), Money::minus);
    }

    /** Why an invoice can't be credited and rebilled as delivered; empty where it can. */
    public static Optional<Refusal> notToBeBilledAgain(Invoice invoice) {
        return invoice.lines().stream().anyMatch(line -> line.ahead().isPositive())
                ? Optional.of(new ReturnRefusal.BilledAhead(invoice.number()))
                : Optional.empty();
    }

    /** What of an invoice line is left to credit. */
    public record Left(int invoiceLine, Quantity quantity, Money net) {}

    public static List<Left> left(Invoice invoice, List<CreditNote> before) {
        return invoice.lines().stream()
                .map(line -> new Left(line.no(), left(line, before), leftNet(line, before)))
                .toList();
    }

    /** All that is left to credit of an invoice, line by line. */
    public static List<Share> everything(Invoice invoice, List<CreditNote> before) {
        return invoice.lines().stream()
                .filter(line -> leftNet(line, before).isPositive())
                .map(line -> left(line, before).isPositive()
                        ? new Share(line.no(), Optional.empty(), left(line, before), Optional.empty())
                        : Share.of(line.no(), leftNet(line, before)))
                .toList();
    }

    /**
     * What of an invoice is left to credit for an order, or for what left with a dispatch; a line of other goods is not
     * touched.
     *
     * @param of the order, or the dispatch
     */
    public static List<Share> everythingOf(DocumentRef of, Invoice invoice, List<CreditNote> before) {
        if (of.kind() == DocumentKind.ORDER) {
            return everything(invoice, before).stream()
                    .filter(share -> invoice.line(share.invoiceLine())
                            .orderLine()
                            .number()
                            .equals(of.number()))
                    .toList();
        }
        return invoice.lines().stream()
                .map(line -> Share.of(
                        line.no(),
                        left(line, before)
                                .min(Quantity.sum(line.sources().stream()
                                        .filter(source ->
                                                source.dispatchLine().number().equals(of.number()))
                                        .map(Invoice.Source::quantity)
                                        .toList()))))
                .filter(share -> share.quantity().isPositive())
                .toList();
    }

    /**
     * Credits lines of an invoice, goods or not.
     *
     * @param before the invoice's credit notes so far
     * @param open what the invoice has open
     */
    public static Decision<Effect.CreditNotePosted> credit(
            Invoice invoice, List<CreditNote> before, List<Share> shares, Money open, Terms terms) {
        var refusals = new ArrayList<Refusal>();
        if (terms.reason().isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "a reason for the credit"));
        }
        if (invoice.reversed()) {
            refusals.add(new ReturnRefusal.InvoiceReversed(invoice.number()));
        }
        if (!invoice.writtenOff().isEmpty()) {
            refusals.add(ReturnRefusal.WrittenOff.of(invoice));
        }
        if (shares.isEmpty()) {
            refusals.add(nothingLeft(invoice));
        }
        refusals.addAll(uncreditable(invoice, before, shares));
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var currency = invoice.totals().gross().currency();
        var lines = new ArrayList<CreditNote.Line>();
        for (var share : shares) {
            lines.add(line(lines, invoice.line(share.invoiceLine()), before, share, terms.feePercent(), currency));
        }
        if (terms.freight()) {
            lines.addAll(freight(invoice, before, lines, currency));
        }
        var comesTo = CreditTotals.of(invoice, before, lines, currency);
        var totals = comesTo.totals();
        if (!totals.gross().isPositive()) {
            return Decision.refused(new ReturnRefusal.MoreThanCreditable(
                    invoice.number(),
                    shares.get(0).invoiceLine(),
                    "more",
                    Money.zero(currency).toString()));
        }
        var credit = new CreditNote(
                terms.number().get(),
                invoice.customer(),
                invoice.number(),
                terms.on(),
                terms.reason(),
                false,
                lines,
                totals,
                comesTo.discounted());
        return Decision.of(
                new Effect.CreditNotePosted(credit, invoice, totals.gross().min(open)));
    }

    /** All of an invoice is credited. */
    static Refusal nothingLeft(Invoice invoice) {
        return new ReturnRefusal.MoreThanCreditable(invoice.number(), 0, "more", "nothing");
    }

    /** What of the shares is not there to be credited; those of one line count together. */
    private static List<Refusal> uncreditable(Invoice invoice, List<CreditNote> before, List<Share> shares) {
        var refusals = new ArrayList<Refusal>();
        var quantities = new HashMap<Integer, Quantity>();
        var amounts = new HashMap<Integer, Money>();
        for (var share : shares) {
            var found = invoice.lines().stream()
                    .filter(line -> line.no() == share.invoiceLine())
                    .findFirst();
            if (found.isEmpty()) {
                refusals.add(
                        new CommonRefusal.NotFound("line", share.invoiceLine() + " on invoice " + invoice.number()));
                continue;
            }
            var line = found.get();
            if (share.amount().isPresent()) {
                var wanted = amounts.merge(line.no(), share.amount().get(), Money::plus);
                if (!share.amount().get().isPositive()) {
                    refusals.add(
                            CommonRefusal.Incomplete.of("lines[" + line.no() + "].amount", "an amount above zero"));
                } else if (wanted.compareTo(leftNet(line, before)) > 0) {
                    refusals.add(new ReturnRefusal.MoreThanCreditable(
                            invoice.number(),
                            line.no(),
                            wanted.toString(),
                            leftNet(line, before).toString()));
                }
            } else if (!share.quantity().isPositive()) {
                refusals.add(CommonRefusal.Incomplete.of("lines[" + line.no() + "].quantity", "a quantity above zero"));
            } else {
                var wanted = quantities.merge(line.no(), share.quantity(), Quantity::plus);
                if (wanted.exceeds(left(line, before))) {
                    refusals.add(new ReturnRefusal.MoreThanCreditable(
                            invoice.number(),
                            line.no(),
                            wanted.toString(),
                            left(line, before).toString()));
                }
            }
        }
        return refusals;
    }

    /**
     * One line of a credit note: what the cumulative quantity was billed at, less what was credited by quantity before,
     * and never more than is left of the line's net.
     */
    private static CreditNote.Line line(
            List<CreditNote.Line> sofar,
            Invoice.Line line,
            List<CreditNote> before,
            Share share,
            BigDecimal feePercent,
            Currency currency) {
        var earlier = new ArrayList<>(lines(before, line.no()));
        sofar.stream().filter(l -> l.invoiceLine() == line.no()).forEach(earlier::add);
        var left = earlier.stream()
                .map(CreditNote.Line::worth)
                .reduce(line.net(), Money::minus)
                .max(Money.zero(currency));
        // goods that came back had left; of all others, what has not left goes first
        var now = line.withCredits(sofar);
        var ahead = share.returnLine().isPresent()
                ? Quantity.ZERO
                : share.quantity().min(now.ahead());
        // what is left of the goods that have gone: the rest is deferred, and goes with those that have not
        var gone = left.minus(now.unearned()).max(Money.zero(currency));
        var deferred = share.amount().isPresent()
                ? now.deferredOf(share.amount().get())
                        .max(share.amount().get().minus(gone))
                        .min(now.unearned())
                : ahead.isPositive() ? now.earnedWith(ahead) : Money.zero(currency);
        Money worth;
        if (share.amount().isPresent()) {
            worth = share.amount().get();
        } else if (ahead.isPositive() && ahead.equals(share.quantity())) {
            worth = deferred;
        } else {
            var byQuantity =
                    earlier.stream().filter(l -> l.quantity().isPositive()).toList();
            var cumulative = Quantity.sum(
                            byQuantity.stream().map(CreditNote.Line::quantity).toList())
                    .plus(share.quantity());
            var taken = byQuantity.stream().map(CreditNote.Line::worth).reduce(Money.zero(currency), Money::plus);
            worth = line.price()
                    .net(cumulative, currency)
                    .minus(taken)
                    .max(Money.zero(currency))
                    .min(gone.plus(deferred));
        }
        var percent = (share.returnLine().isPresent() ? feePercent : BigDecimal.ZERO).setScale(2, RoundingMode.HALF_UP);
        var fee = fee(worth, percent, earlier);
        return new CreditNote.Line(
                sofar.size() + 1,
                line.no(),
                line.orderLine(),
                share.returnLine(),
                line.item(),
                line.description(),
                share.quantity(),
                worth.minus(fee),
                fee,
                percent,
                ahead,
                deferred,
                line.vat());
    }

    /**
     * A slice too: what is retained of all that was credited less the same per cent, less what of that was retained
     * before.
     */
    private static Money fee(Money worth, BigDecimal percent, List<CreditNote.Line> earlier) {
        var alike = earlier.stream()
                .filter(l -> l.returnLine().isPresent() && l.feePercent().compareTo(percent) == 0)
                .toList();
        var zero = worth.minus(worth);
        var all = alike.stream().map(CreditNote.Line::worth).reduce(worth, Money::plus);
        var kept = alike.stream().map(CreditNote.Line::fee).reduce(zero, Money::plus);
        return Money.rounded(all.amount().multiply(percent).movePointLeft(2), worth.currency())
                .minus(kept)
                .max(zero)
                .min(worth);
    }

    /**
     * The freight of goods that came back: of each charge that the invoice billed, the part that the goods credited for
     * returns so far are of all its goods by their net, less what was credited of it that way before, and never more
     * than is left of it.
     */
    private static List<CreditNote.Line> freight(
            Invoice invoice, List<CreditNote> before, List<CreditNote.Line> goods, Currency currency) {
        var zero = Money.zero(currency);
        var stock = invoice.lines().stream()
                .filter(line -> line.kind() == LineKind.STOCK)
                .toList();
        var all = stock.stream().map(Invoice.Line::net).reduce(zero, Money::plus);
        var back = stock.stream()
                .map(line -> line.price()
                        .net(
                                Quantity.sum(Stream.concat(
                                                lines(before, line.no()).stream(),
                                                goods.stream().filter(l -> l.invoiceLine() == line.no()))
                                        .filter(l -> l.returnLine().isPresent())
                                        .map(CreditNote.Line::quantity)
                                        .toList()),
                                currency))
                .reduce(zero, Money::plus);
        var returnLine =
                goods.stream().flatMap(line -> line.returnLine().stream()).findFirst();
        var credited = new ArrayList<CreditNote.Line>();
        if (returnLine.isEmpty() || !all.isPositive()) {
            return credited;
        }
        for (var charge : invoice.lines().stream()
                .filter(line -> line.kind() == LineKind.CHARGE)
                .toList()) {
            var earlier = lines(before, charge.no());
            var taken = earlier.stream()
                    .filter(line -> line.returnLine().isPresent())
                    .map(CreditNote.Line::net)
                    .reduce(zero, Money::plus);
            var due = charge.net()
                    .slice(back, all, taken)
                    .min(leftNet(charge, before))
                    .max(zero);
            if (due.isPositive()) {
                credited.add(new CreditNote.Line(
                        goods.size() + credited.size() + 1,
                        charge.no(),
                        charge.orderLine(),
                        returnLine,
                        charge.item(),
                        charge.description(),
                        Quantity.ZERO,
                        due,
                        zero,
                        BigDecimal.ZERO,
                        Quantity.ZERO,
                        zero,
                        charge.vat()));
            }
        }
        return credited;
    }
}
