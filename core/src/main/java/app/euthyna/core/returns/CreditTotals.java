package app.euthyna.core.returns;

import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * What a credit note comes to, by category and rate of VAT: what is due on all that is credited so far at the band's
 * rate, less what was credited of it (BR-CO-17 of EN 16931-1 on the sum). Where a discount was taken on the invoice,
 * its share is taken off: what is credited piece by piece comes to what was paid, to the cent (section 16).
 *
 * @param discounted the shares of the discount
 */
record CreditTotals(Totals totals, List<Totals.Band> discounted) {

    static CreditTotals of(Invoice invoice, List<CreditNote> before, List<CreditNote.Line> lines, Currency currency) {
        var nets = new TreeMap<Vat, Money>();
        lines.forEach(line -> nets.merge(line.vat(), line.net(), Money::plus));
        var bands = new ArrayList<Totals.Band>();
        var discounted = new ArrayList<Totals.Band>();
        var net = Money.zero(currency);
        var vat = Money.zero(currency);
        for (var entry : nets.entrySet()) {
            var earlier = of(entry.getKey(), before, CreditNote::undiscounted);
            var taxable = sum(earlier, Totals.Band::taxable, entry.getValue());
            var taken = sum(earlier, Totals.Band::tax, Money.zero(currency));
            var tax = Money.rounded(
                            taxable.amount()
                                    .multiply(entry.getKey().ratePercent())
                                    .movePointLeft(2),
                            currency)
                    .minus(taken)
                    .max(Money.zero(currency));
            var band = new Totals.Band(entry.getKey(), entry.getValue(), tax);
            var share = share(invoice, of(entry.getKey(), before, CreditNote::discounted), band, taxable);
            share.ifPresent(discounted::add);
            var credited = share.map(one -> new Totals.Band(
                            one.vat(),
                            band.taxable().minus(one.taxable()),
                            band.tax().minus(one.tax())))
                    .orElse(band);
            bands.add(credited);
            net = net.plus(credited.taxable());
            vat = vat.plus(credited.tax());
        }
        return new CreditTotals(new Totals(net, vat, net.plus(vat), bands), discounted);
    }

    /**
     * The share of a discount that goes with a band of a credit note: a slice of it, by what is credited of the band
     * since it was taken; empty where that comes to nothing.
     */
    private static Optional<Totals.Band> share(
            Invoice invoice, List<Totals.Band> before, Totals.Band band, Money credited) {
        var zero = credited.minus(credited);
        var billed = sum(of(band.vat(), invoice.totals().bands().stream()), Totals.Band::taxable, zero);
        return invoice.discount().stream()
                .flatMap(discount -> discount.shares().stream())
                .filter(share -> share.vat().equals(band.vat()) && share.base().isPositive())
                .findFirst()
                .map(share -> new Totals.Band(
                        band.vat(),
                        slice(share, share.net(), billed, credited, sum(before, Totals.Band::taxable, zero))
                                .min(band.taxable()),
                        slice(share, share.tax(), billed, credited, sum(before, Totals.Band::tax, zero))
                                .min(band.tax())))
                .filter(share -> share.taxable().isPositive() || share.tax().isPositive());
    }

    private static Money slice(Reduction.Share share, Money whole, Money billed, Money credited, Money taken) {
        var zero = whole.minus(whole);
        var since = credited.minus(billed.minus(share.base())).max(zero).min(share.base());
        return whole.slice(since, share.base(), taken);
    }

    private static List<Totals.Band> of(
            Vat vat, List<CreditNote> credits, Function<CreditNote, List<Totals.Band>> bands) {
        return of(vat, credits.stream().flatMap(credit -> bands.apply(credit).stream()));
    }

    private static List<Totals.Band> of(Vat vat, Stream<Totals.Band> bands) {
        return bands.filter(band -> band.vat().equals(vat)).toList();
    }

    private static Money sum(List<Totals.Band> bands, Function<Totals.Band, Money> amount, Money start) {
        return bands.stream().map(amount).reduce(start, Money::plus);
    }
}
