package app.euthyna.core.order;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Vat;
import java.time.LocalDate;
import java.util.Currency;

/**
 * What was ordered on one line. Items are known by their code; {@code no} counts from 1 and is never given twice in an
 * order.
 *
 * @param requestedOn when the customer wants it
 * @param site the store it ships from, or empty where it is the order's
 */
public record OrderLine(
        int no,
        LineKind kind,
        String item,
        String description,
        Quantity quantity,
        Price price,
        Vat vat,
        LocalDate requestedOn,
        String site,
        Shortage shortage) {

    public OrderLine {
        if (quantity.isNegative()) {
            throw new IllegalArgumentException("line " + no + " orders " + quantity);
        }
    }

    public Money net(Quantity of, Currency currency) {
        return kind.isBilled() ? price.net(of, currency) : Money.zero(currency);
    }

    public OrderLine withQuantity(Quantity changed) {
        return new OrderLine(no, kind, item, description, changed, price, vat, requestedOn, site, shortage);
    }

    public OrderLine withPrice(Price changed) {
        return new OrderLine(no, kind, item, description, quantity, changed, vat, requestedOn, site, shortage);
    }

    public OrderLine withRequestedOn(LocalDate changed) {
        return new OrderLine(no, kind, item, description, quantity, price, vat, changed, site, shortage);
    }
}
