package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.text.Normalizer;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.commons.text.similarity.DamerauLevenshteinDistance;

/**
 * A customer's PO number: the text as written and its normal form (section 5). Numbers with the same normal form are
 * alike: {@code PO 004417-B} and {@code p.o. 4417/b} both read {@code 4417B}.
 */
public record PoNumber(String text, String normal) {

    /**
     * A leading word that says no more than that a number follows; a letter after it would make it part of a longer
     * word.
     */
    private static final Pattern LEADING_WORD = Pattern.compile("^(?:P[^\\p{L}\\p{N}]?\\s*O|ORDER|NO|NR)(?!\\p{L})");

    private static final Pattern NOT_LETTER_OR_DIGIT = Pattern.compile("[^\\p{L}\\p{N}]+");
    private static final Pattern LEADING_ZEROS = Pattern.compile("(?<!\\p{N})0+(?=\\p{N})");

    /** Damerau-Levenshtein in its optimal string alignment form, which tells a distance of 1 as the full form does. */
    private static final DamerauLevenshteinDistance ONE_SLIP = new DamerauLevenshteinDistance(1);

    public static PoNumber of(String text) {
        var upper = Normalizer.normalize(text, Normalizer.Form.NFKC).toUpperCase(Locale.ROOT);
        while (true) {
            var trimmed = upper.replaceFirst("^[^\\p{L}\\p{N}]+", "");
            var shorter = LEADING_WORD.matcher(trimmed).replaceFirst("");
            if (shorter.equals(trimmed) || plain(shorter).isEmpty()) {
                return new PoNumber(
                        text.strip(), LEADING_ZEROS.matcher(plain(trimmed)).replaceAll(""));
            }
            upper = shorter;
        }
    }

    /**
     * The normal form with letters and digits that are mistaken for one another read as digits: O as 0, I as 1, S as 5,
     * B as 8.
     */
    public String folded() {
        var digits =
                normal.replace('O', '0').replace('I', '1').replace('S', '5').replace('B', '8');
        return LEADING_ZEROS.matcher(digits).replaceAll("");
    }

    /** How a number that was used for an order of some value is met by this one, for an order of its own value. */
    public Optional<Likeness> likeness(Money value, PoNumber used, Money usedValue) {
        if (!isGiven() || !used.isGiven()) {
            return Optional.empty();
        }
        if (text.equals(used.text)) {
            return Optional.of(Likeness.SAME);
        }
        if (normal.equals(used.normal)) {
            return Optional.of(Likeness.ALIKE);
        }
        var slip = value.equals(usedValue) && ONE_SLIP.apply(normal, used.normal) == 1;
        return slip || folded().equals(used.folded()) ? Optional.of(Likeness.NEAR) : Optional.empty();
    }

    /** How a number is met again, the closest first (section 5). */
    public enum Likeness {
        /** The identical text. */
        SAME,
        /** The same normal form. */
        ALIKE,
        /** One slip of the pen away for the same value, or letters and digits mistaken for one another. */
        NEAR
    }

    private static String plain(String text) {
        return NOT_LETTER_OR_DIGIT.matcher(text).replaceAll("");
    }

    public boolean isGiven() {
        return !normal.isEmpty();
    }
}
