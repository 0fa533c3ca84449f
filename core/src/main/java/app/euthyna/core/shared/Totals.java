package app.euthyna.core.shared;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.TreeMap;

/**
 * Net, VAT and gross of a document. VAT is computed per category and rate on the sum of the line nets of the document,
 * never per line: EN 16931-1 BR-CO-10 (sum of line nets), BR-CO-14 (total VAT), BR-CO-15 (gross = net + VAT) and
 * BR-CO-17 (VAT = taxable amount × rate ÷ 100, rounded to two decimals).
 */
public record Totals(Money net, Money vat, Money gross, List<Band> bands) {

    /** The taxable amount and VAT of one category and rate. */
    public record Band(Vat vat, Money taxable, Money tax) {}

    /** One line's net under its VAT. */
    public record Part(Money net, Vat vat) {}

    public Totals {
        bands = List.copyOf(bands);
    }

    public static Totals of(List<Part> parts, Currency currency) {
        var taxable = new TreeMap<Vat, Money>();
        for (var part : parts) {
            taxable.merge(part.vat(), part.net(), Money::plus);
        }
        var bands = new ArrayList<Band>();
        var net = Money.zero(currency);
        var vat = Money.zero(currency);
        for (var entry : taxable.entrySet()) {
            var tax = Money.rounded(
                    entry.getValue()
                            .amount()
                            .multiply(entry.getKey().ratePercent())
                            .divide(BigDecimal.valueOf(100)),
                    currency);
            bands.add(new Band(entry.getKey(), entry.getValue(), tax));
            net = net.plus(entry.getValue());
            vat = vat.plus(tax);
        }
        return new Totals(net, vat, net.plus(vat), bands);
    }
}
