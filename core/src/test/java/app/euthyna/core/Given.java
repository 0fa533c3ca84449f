package app.euthyna.core;

import app.euthyna.core.flow.Dispatch;
import app.euthyna.core.order.Details;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.order.Shortage;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Vat;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Currency;
import java.util.List;
import java.util.Random;

/** Short words for the facts that tests begin with. */
public final class Given {

    public static final Currency EUR = Currency.getInstance("EUR");
    public static final LocalDate TODAY = LocalDate.of(2026, 3, 2);

    private Given() {}

    public static Money eur(String amount) {
        return Money.of(amount, "EUR");
    }

    /** Any of the values of an enumeration. */
    public static <T> T oneOf(Random random, T[] values) {
        return List.of(values).get(random.nextInt(values.length));
    }

    public static Quantity q(long value) {
        return Quantity.of(value);
    }

    public static OrderLine stock(int no, String item, String quantity, String price, String rate) {
        return line(no, LineKind.STOCK, item, quantity, price, rate);
    }

    public static OrderLine line(int no, LineKind kind, String item, String quantity, String price, String rate) {
        var vat = new BigDecimal(rate).signum() == 0 ? Vat.of(Vat.Category.Z, "0") : Vat.of(Vat.Category.S, rate);
        return new OrderLine(
                no, kind, item, "Item " + item, Quantity.of(quantity), Price.of(price), vat, TODAY, "", Shortage.WAIT);
    }

    /** A note of one line that is staged for line 1 of SO-1. */
    public static Dispatch staged(String number, String item, Quantity quantity) {
        return new Dispatch(
                number,
                "SO-1",
                "S",
                Dispatch.State.STAGED,
                TODAY,
                List.of(new Dispatch.Line(1, 1, item, quantity, eur("0.00"))));
    }

    public static Order order(String number, OrderState state, OrderLine... lines) {
        return order(number, OrderKind.STANDARD, state, "P-1", lines);
    }

    public static Order order(String number, OrderKind kind, OrderState state, String po, OrderLine... lines) {
        return new Order(
                number,
                1,
                kind,
                state,
                "C",
                po,
                "S",
                TODAY,
                TODAY,
                "",
                "clerk",
                "clerk",
                java.util.Set.of(),
                EUR,
                Details.NONE,
                List.of(lines));
    }
}
