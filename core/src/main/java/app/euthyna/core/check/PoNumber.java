package app.euthyna.core.check;

import java.text.Normalizer;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * A customer's PO number: the text as written and its normal form (section 5). Numbers with the same normal form are alike:
 * {@code PO 004417-B} and {@code p.o. 4417/b} both read {@code 4417B}.
 */
public record PoNumber(String text, String normal) {

    /** A leading word that says no more than that a number follows; a letter after it would make it part of a longer word. */
    private static final Pattern LEADING_WORD = Pattern.compile("^(?:P[^\\p{L}\\p{N}]?\\s*O|ORDER|NO|NR)(?!\\p{L})");
    private static final Pattern NOT_LETTER_OR_DIGIT = Pattern.compile("[^\\p{L}\\p{N}]+");
    private static final Pattern LEADING_ZEROS = Pattern.compile("(?<!\\p{N})0+(?=\\p{N})");

    public static PoNumber of(String text) {
        var upper = Normalizer.normalize(text, Normalizer.Form.NFKC).toUpperCase(Locale.ROOT);
        while (true) {
            var trimmed = upper.replaceFirst("^[^\\p{L}\\p{N}]+", "");
            var shorter = LEADING_WORD.matcher(trimmed).replaceFirst("");
            if (shorter.equals(trimmed) || plain(shorter).isEmpty()) {
                return new PoNumber(text.strip(), LEADING_ZEROS.matcher(plain(trimmed)).replaceAll(""));
            }
            upper = shorter;
        }
    }

    private static String plain(String text) {
        return NOT_LETTER_OR_DIGIT.matcher(text).replaceAll("");
    }

    public boolean isGiven() {
        return !normal.isEmpty();
    }
}
