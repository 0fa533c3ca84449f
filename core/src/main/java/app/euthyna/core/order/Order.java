package app.euthyna.core.order;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Totals;
import java.text.Normalizer;
import java.time.LocalDate;
import java.util.Collections;
import java.util.Currency;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.regex.Pattern;

/**
 * An order as it stands: its content, its state and who answers for it.
 *
 * @param po the customer's own number as it was written, or empty
 * @param site the store it ships from
 * @param writers beside its author: who wrote the order that it was split off from, and who changed content of it that
 *     matters; none of them decides on it (section 6)
 * @param sequence orders are served and checked again in this order, oldest first
 */
public record Order(
        String number,
        long sequence,
        OrderKind kind,
        OrderState state,
        String customer,
        String po,
        String site,
        LocalDate orderedOn,
        LocalDate requestedOn,
        String remark,
        String author,
        String lastEditor,
        Set<String> writers,
        Currency currency,
        Details details,
        List<OrderLine> lines) {

    private static final Pattern LETTER_OR_DIGIT = Pattern.compile("[\\p{L}\\p{N}]");

    public Order {
        // sorted, so that an order reads the same in every process
        writers = Collections.unmodifiableSet(new TreeSet<>(writers));
        lines = List.copyOf(lines);
    }

    public OrderLine line(int no) {
        return lines.stream()
                .filter(line -> line.no() == no)
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("order " + number + " has no line " + no));
    }

    public boolean hasLine(int no) {
        return lines.stream().anyMatch(line -> line.no() == no);
    }

    /** There is nothing to bill for the line: a sample or replacement at no price (section 8). */
    public boolean isAtNoCharge(OrderLine line) {
        return kind.atNoCharge() && line.price().isFree();
    }

    /** A text without a letter or digit in its normal form is no PO number (section 5). */
    public boolean hasPo() {
        return LETTER_OR_DIGIT
                .matcher(Normalizer.normalize(po, Normalizer.Form.NFKC))
                .find();
    }

    public Totals totals() {
        return totals(OrderLine::quantity);
    }

    /** Net, VAT and gross of the quantity that {@code of} gives for each line, at the order's prices. */
    public Totals totals(Function<OrderLine, Quantity> of) {
        return Totals.of(
                lines.stream()
                        .filter(line -> line.kind().isBilled())
                        .map(line -> new Totals.Part(line.net(of.apply(line), currency), line.vat()))
                        .toList(),
                currency);
    }

    /** The store that a line ships from. */
    public String siteOf(OrderLine line) {
        return line.site().isEmpty() ? site : line.site();
    }

    /** By which free stock for a line is known: its item, and the store where that is not the order's own. */
    public String place(OrderLine line) {
        return siteOf(line).equals(site) ? line.item() : line.item() + " at " + line.site();
    }

    /** Net of the lines between a subtotal and the one before it. */
    public Money subtotal(OrderLine at) {
        var sum = Money.zero(currency);
        for (var line : lines) {
            if (line.no() == at.no()) {
                return sum;
            }
            sum = line.kind() == LineKind.SUBTOTAL
                    ? Money.zero(currency)
                    : sum.plus(line.net(line.quantity(), currency));
        }
        throw new IllegalArgumentException("order " + number + " has no line " + at.no());
    }

    /** Its writers once somebody has changed it into another content. */
    public Set<String> writersAfter(Order changed, String by) {
        var all = new TreeSet<>(writers);
        if (!Content.of(this).equals(Content.of(changed))) {
            all.add(by);
        }
        return all;
    }

    /** Whoever may not decide on a part that is split off it. */
    public Set<String> everyWriter() {
        var all = new TreeSet<>(writers);
        all.add(author);
        return all;
    }

    public boolean wasWrittenBy(String username) {
        return author.equals(username) || writers.contains(username);
    }

    public Order withWriters(Set<String> changed) {
        return new Order(
                number,
                sequence,
                kind,
                state,
                customer,
                po,
                site,
                orderedOn,
                requestedOn,
                remark,
                author,
                lastEditor,
                changed,
                currency,
                details,
                lines);
    }

    public Order withState(OrderState changed) {
        return new Order(
                number,
                sequence,
                kind,
                changed,
                customer,
                po,
                site,
                orderedOn,
                requestedOn,
                remark,
                author,
                lastEditor,
                writers,
                currency,
                details,
                lines);
    }

    public Order withLines(List<OrderLine> changed) {
        return new Order(
                number,
                sequence,
                kind,
                state,
                customer,
                po,
                site,
                orderedOn,
                requestedOn,
                remark,
                author,
                lastEditor,
                writers,
                currency,
                details,
                changed);
    }
}
