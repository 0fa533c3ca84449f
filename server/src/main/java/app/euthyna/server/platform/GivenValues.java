package app.euthyna.server.platform;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.function.Function;
import java.util.regex.Pattern;

/** How dates and figures that someone sent are read: what no document of ours could carry is told, not stored. */
final class GivenValues {

    private static final Pattern DATE = Pattern.compile("(19|2\\d)\\d\\d-\\d\\d-\\d\\d");
    private static final Pattern FIGURE = Pattern.compile("-?\\d{1,13}(\\.\\d{1,12})?");

    private static final String FIGURE_WORDS = "a number like 12.50, of at most 13 digits before the point";

    private GivenValues() {}

    /** A date of the years 1900 to 2999, or what {@code wrong} makes of the words that say so. */
    static LocalDate date(String text, Function<String, ? extends RuntimeException> wrong) {
        var words = "a date like 2026-03-02";
        if (text == null || !DATE.matcher(text).matches()) {
            throw wrong.apply(words);
        }
        try {
            return LocalDate.parse(text);
        } catch (DateTimeException noSuchDay) {
            throw wrong.apply(words);
        }
    }

    /** Whether a text can be kept, printed and sent: no zero characters, no half of a character. */
    static boolean isText(String text) {
        for (int at = 0; at < text.length(); at++) {
            var c = text.charAt(at);
            if (c == 0 || c == '\uFFFE' || c == '\uFFFF') {
                return false;
            }
            if (Character.isHighSurrogate(c)) {
                at++;
                if (at == text.length() || !Character.isLowSurrogate(text.charAt(at))) {
                    return false;
                }
            } else if (Character.isLowSurrogate(c)) {
                return false;
            }
        }
        return true;
    }

    /** A figure written in plain digits, at most 13 of them before the point. */
    static BigDecimal figure(String text, Function<String, ? extends RuntimeException> wrong) {
        if (!FIGURE.matcher(text).matches()) {
            throw wrong.apply(FIGURE_WORDS);
        }
        return new BigDecimal(text);
    }

    /** The same of a number, which may have been written with an exponent. */
    static BigDecimal figure(BigDecimal number, Function<String, ? extends RuntimeException> wrong) {
        if (number.precision() - number.scale() > 13 || number.scale() > 12) {
            throw wrong.apply(FIGURE_WORDS);
        }
        return number.scale() < 0 ? number.setScale(0) : number;
    }
}
