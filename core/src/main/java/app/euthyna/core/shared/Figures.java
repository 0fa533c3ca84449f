package app.euthyna.core.shared;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** How figures are written in sentences: thousands with a comma, a true minus, all their decimals. */
public final class Figures {

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

    private Figures() {}

    /** A unit price: two decimals at least, more only where they are not zero. */
    public static String price(BigDecimal unit) {
        var stripped = unit.stripTrailingZeros();
        return (stripped.scale() < 2 ? stripped.setScale(2) : stripped).toPlainString();
    }

    /** Per cent, a factor: no zeros at the end. */
    public static String plain(BigDecimal figure) {
        return figure.stripTrailingZeros().toPlainString();
    }

    /** A day as it stands in sentences: 2 Mar 2026. */
    public static String day(LocalDate date) {
        return DAY.format(date);
    }

    public static String grouped(BigDecimal figure) {
        var plain = figure.abs().toPlainString();
        var point = plain.indexOf('.');
        var whole = point < 0 ? plain : plain.substring(0, point);
        var text = new StringBuilder(whole);
        for (int at = whole.length() - 3; at > 0; at -= 3) {
            text.insert(at, ',');
        }
        if (point >= 0) {
            text.append(plain, point, plain.length());
        }
        return figure.signum() < 0 ? "\u2212" + text : text.toString();
    }
}
