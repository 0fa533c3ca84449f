package app.euthyna.core.flow;

import app.euthyna.core.shared.LineRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * What a customer need not pay of one invoice, for goods that came back or as an allowance (section 10; a credit note
 * that refers to its invoice, EN 16931 BT-25).
 *
 * @param reversed it was taken back: it stays on record and counts no more
 * @param totals the VAT of each band is its slice of the invoice's; less the share of a discount that was taken on it
 * @param discounted that share by category and rate of VAT: what is not credited, since it was never paid
 */
public record CreditNote(
        String number,
        String customer,
        String invoice,
        LocalDate on,
        String reason,
        boolean reversed,
        List<Line> lines,
        Totals totals,
        List<Totals.Band> discounted) {

    /** A credit note for an invoice on which no discount was taken. */
    public CreditNote(
            String number,
            String customer,
            String invoice,
            LocalDate on,
            String reason,
            boolean reversed,
            List<Line> lines,
            Totals totals) {
        this(number, customer, invoice, on, reason, reversed, lines, totals, List.of());
    }

    /**
     * What is credited of one invoice line.
     *
     * @param orderLine where the invoice line began
     * @param returnLine whose goods it is for; empty for an allowance
     * @param quantity zero for an allowance by amount
     * @param net less the fee
     * @param fee retained for restocking, at {@code feePercent}
     * @param ahead of the quantity, what was billed and had not left: it is billed no more
     * @param deferred of the net, what was deferred revenue
     */
    public record Line(
            int no,
            int invoiceLine,
            LineRef orderLine,
            Optional<LineRef> returnLine,
            String item,
            String description,
            Quantity quantity,
            Money net,
            Money fee,
            BigDecimal feePercent,
            Quantity ahead,
            Money deferred,
            Vat vat) {
        public Line {
            feePercent = feePercent.setScale(2, RoundingMode.HALF_UP);
        }

        /** What counts as credited of the order line: goods whose billing was taken back before they left do not. */
        public Quantity credited() {
            return quantity.minus(ahead);
        }

        /** What the quantity was worth before the fee was retained. */
        public Money worth() {
            return net.plus(fee);
        }
    }

    public CreditNote {
        lines = List.copyOf(lines);
        discounted = List.copyOf(discounted);
    }

    CreditNote asReversed() {
        return new CreditNote(number, customer, invoice, on, reason, true, lines, totals, discounted);
    }

    /** What its lines come to under a category and rate of VAT, before the share of a discount is taken off. */
    public List<Totals.Band> undiscounted() {
        return totals.bands().stream()
                .map(band -> discounted.stream()
                        .filter(share -> share.vat().equals(band.vat()))
                        .findFirst()
                        .map(share -> new Totals.Band(
                                band.vat(),
                                band.taxable().plus(share.taxable()),
                                band.tax().plus(share.tax())))
                        .orElse(band))
                .toList();
    }

    /** Whether it credits goods of a return. */
    public boolean isFor(String goods) {
        return lines.stream()
                .anyMatch(line -> line.returnLine()
                        .filter(ref -> ref.number().equals(goods))
                        .isPresent());
    }
}
