package app.euthyna.core.billing;

import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import app.euthyna.core.shared.RoleLimits;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/**
 * What of an invoice is settled without money: write-offs, and discounts for paying early (section 16). Where VAT is
 * reduced with it, each rate's part is a slice of the VAT that is left of it, so that an invoice reduced piece by piece
 * is free of its VAT to the cent (Directive 2006/112/EC art. 79(a) and 90).
 */
public final class Reducing {

    /** Who may write off a small difference; bad debt takes somebody who decides. */
    public static final List<Role> SMALL_DIFFERENCES = List.of(Role.RECEIVABLES, Role.CONTROLLER, Role.LEAD);

    private Reducing() {}

    /**
     * An invoice as it stands.
     *
     * @param credits its credit notes in force
     */
    public record Standing(Invoice invoice, List<CreditNote> credits, Money open) {
        public Standing {
            credits = List.copyOf(credits);
        }

        /** The gross less what is credited. */
        Money left() {
            return credits.stream()
                    .map(credit -> credit.totals().gross())
                    .reduce(invoice.totals().gross(), Money::minus);
        }

        /** Of a category and rate of VAT, what is left after the credits. */
        private Money left(Vat vat, Function<Totals.Band, Money> amount) {
            var zero = open.minus(open);
            return credits.stream()
                    .flatMap(credit -> credit.totals().bands().stream())
                    .filter(band -> band.vat().equals(vat))
                    .map(amount)
                    .reduce(
                            invoice.totals().bands().stream()
                                    .filter(band -> band.vat().equals(vat))
                                    .map(amount)
                                    .reduce(zero, Money::plus),
                            Money::minus);
        }
    }

    /** What is to be written off. */
    public record WriteOff(String number, Reduction.Kind kind, Money amount, LocalDate on, String reason) {}

    /**
     * What bounds write-offs; whoever wrote off what of late counts together (section 15).
     *
     * @param smallDifference at most so much of one invoice
     * @param relief the company claims the VAT of bad debt back
     * @param badDebt by role
     * @param byPerson what each person wrote off for the customer of late
     * @param ofInvoice what anybody wrote off of the invoice of late
     */
    public record Bounds(
            Money smallDifference, boolean relief, RoleLimits badDebt, Map<String, Money> byPerson, Money ofInvoice) {
        public Bounds {
            byPerson = Map.copyOf(byPerson);
        }

        /** The same after a person has written off so much more for the customer, of another invoice. */
        public Bounds after(Person person, Money amount) {
            var more = new HashMap<>(byPerson);
            more.merge(person.username(), amount, Money::plus);
            return new Bounds(smallDifference, relief, badDebt, more, ofInvoice);
        }
    }

    /** Writes a part of an invoice off, or all that is open of it. */
    public static Decision<Effect.InvoiceReduced> writeOff(
            Person person, WriteOff asked, Standing standing, Bounds bounds) {
        var invoice = standing.invoice();
        var refusals = new ArrayList<Refusal>();
        if (asked.reason().isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "a reason for the write-off"));
        }
        if (!asked.amount().isPositive()) {
            refusals.add(CommonRefusal.Incomplete.of("amount", "an amount above zero"));
        }
        if (invoice.reversed()) {
            refusals.add(new BillingRefusal.AlreadyReversed("Invoice " + invoice.number()));
        } else if (asked.amount().compareTo(standing.open()) > 0) {
            refusals.add(new BillingRefusal.MoreThanInvoiceOpen(invoice.number(), asked.amount(), standing.open()));
        }
        if (refusals.isEmpty()) {
            mayNot(person, asked, invoice, bounds).ifPresent(refusals::add);
        }
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        return Decision.of(new Effect.InvoiceReduced(new Reduction(
                asked.kind(),
                new DocumentRef(DocumentKind.WRITE_OFF, asked.number()),
                invoice.customer(),
                invoice.number(),
                invoice.orders(),
                asked.on(),
                asked.amount(),
                asked.reason(),
                asked.kind() == Reduction.Kind.BAD_DEBT && bounds.relief()
                        ? shares(standing, asked.amount())
                        : List.of())));
    }

    private static Optional<Refusal> mayNot(Person person, WriteOff asked, Invoice invoice, Bounds bounds) {
        if (asked.kind() == Reduction.Kind.SMALL_DIFFERENCE) {
            var together = invoice.writtenOff().stream()
                    .filter(one -> one.kind() == Reduction.Kind.SMALL_DIFFERENCE)
                    .map(Reduction::amount)
                    .reduce(asked.amount(), Money::plus);
            if (!person.carries(SMALL_DIFFERENCES)) {
                return Optional.of(
                        new CommonRefusal.NotAuthorised("write off differences", person.role(), SMALL_DIFFERENCES));
            }
            return together.compareTo(bounds.smallDifference()) > 0
                    ? Optional.of(
                            new BillingRefusal.NoSmallDifference(invoice.number(), together, bounds.smallDifference()))
                    : Optional.empty();
        }
        if (!person.decides()) {
            return Optional.of(new CommonRefusal.NotAuthorised("write off bad debt", person.role(), Person.DECIDING));
        }
        var before = bounds.byPerson()
                .getOrDefault(person.username(), asked.amount().minus(asked.amount()))
                .max(bounds.ofInvoice());
        return bounds.badDebt()
                .of(person)
                .filter(limit -> asked.amount().plus(before).compareTo(limit) > 0)
                .map(limit -> new BillingRefusal.WriteOffLimit(asked.amount(), before, limit));
    }

    /**
     * Who grants a discount that came too late, and when the money came.
     *
     * @param on the day of the entry
     * @param paidOn the day on which the bank booked the money, else the day on which it was recorded
     * @param reason may be empty
     */
    public record Grant(Person person, LocalDate on, LocalDate paidOn, String reason) {}

    /** What settles an invoice with its discount; all that is open where there is none. */
    public static Money due(Standing standing) {
        return discount(standing).map(standing.open()::minus).orElse(standing.open());
    }

    /** What may be taken off an invoice for paying it early; empty where nothing is agreed, or it was taken. */
    public static Optional<Money> discount(Standing standing) {
        return standing.invoice().discount().isPresent()
                ? Optional.empty()
                : standing.invoice().earlyPayment().flatMap(agreed -> discount(agreed.percent(), standing.left()));
    }

    /** So many per cent of the gross less what is credited; empty where that is nothing. */
    public static Optional<Money> discount(BigDecimal percent, Money left) {
        return Optional.of(Money.rounded(left.amount().multiply(percent).movePointLeft(2), left.currency()))
                .filter(Money::isPositive);
    }

    /**
     * Takes the discount for paying early, with the money that settles all the rest.
     *
     * @param source whose money it is
     * @param paid what of it settles the invoice
     */
    public static Decision<Effect.InvoiceReduced> discount(
            DocumentRef source, Money paid, Standing standing, Grant grant) {
        var invoice = standing.invoice();
        var discount = discount(standing);
        if (discount.isEmpty()) {
            return Decision.refused(new BillingRefusal.NoDiscount(invoice.number()));
        }
        var amount = discount.get();
        if (!paid.plus(amount).equals(standing.open())) {
            return Decision.refused(new BillingRefusal.NotWithDiscount(
                    invoice.number(), paid, amount, standing.open().minus(amount)));
        }
        var until = invoice.earlyPayment().orElseThrow().until();
        if (grant.paidOn().isAfter(until)
                && (!grant.person().decides() || grant.reason().isBlank())) {
            return Decision.refused(new BillingRefusal.DiscountLapsed(invoice.number(), until, grant.paidOn()));
        }
        return Decision.of(new Effect.InvoiceReduced(new Reduction(
                Reduction.Kind.DISCOUNT,
                source,
                invoice.customer(),
                invoice.number(),
                invoice.orders(),
                grant.on(),
                amount,
                grant.reason(),
                shares(standing, amount))));
    }

    /** The parts of an amount by category and rate of VAT; together they are the amount. */
    private static List<Reduction.Share> shares(Standing standing, Money amount) {
        var invoice = standing.invoice();
        var zero = amount.minus(amount);
        var before = invoice.reductions().stream()
                .filter(one -> !one.shares().isEmpty())
                .toList();
        var together = before.stream().map(Reduction::amount).reduce(amount, Money::plus);
        var bands = invoice.totals().bands();
        var shares = new ArrayList<Reduction.Share>();
        var rest = amount;
        for (var band : bands) {
            var tax = part(standing, band.vat(), Totals.Band::tax, Reduction.Share::tax, before, together)
                    .min(rest);
            rest = rest.minus(tax);
            shares.add(new Reduction.Share(band.vat(), standing.left(band.vat(), Totals.Band::taxable), zero, tax));
        }
        for (var i = 0; i < shares.size(); i++) {
            var share = shares.get(i);
            var net = i == shares.size() - 1
                    ? rest
                    : part(standing, share.vat(), Totals.Band::taxable, Reduction.Share::net, before, together)
                            .min(rest);
            rest = rest.minus(net);
            shares.set(i, new Reduction.Share(share.vat(), share.base(), net, share.tax()));
        }
        return shares.stream()
                .filter(share -> !share.net().isZero() || !share.tax().isZero())
                .toList();
    }

    private static Money part(
            Standing standing,
            Vat vat,
            Function<Totals.Band, Money> ofBand,
            Function<Reduction.Share, Money> ofShare,
            List<Reduction> before,
            Money together) {
        var zero = together.minus(together);
        var taken = before.stream()
                .flatMap(one -> one.shares().stream())
                .filter(share -> share.vat().equals(vat))
                .map(ofShare)
                .reduce(zero, Money::plus);
        // credits may have set money free elsewhere, and more be open than the invoice comes to with them
        var whole = standing.left().max(zero);
        return whole.isZero() ? zero : standing.left(vat, ofBand).slice(together.min(whole), whole, taken);
    }
}
