package app.euthyna.core.billing;

import java.math.BigInteger;
import java.util.Locale;

/**
 * The creditor reference that a payer can quote for an invoice (ISO 11649): RF, two check digits by ISO 7064 MOD 97-10,
 * and the invoice's number in letters and digits.
 */
public final class CreditorReference {

    private static final BigInteger NINETY_SEVEN = BigInteger.valueOf(97);

    private CreditorReference() {}

    /** The reference of an invoice number, without spaces; at most 21 letters and digits of the number count. */
    public static String of(String invoice) {
        var body = letters(invoice);
        if (body.isEmpty() || body.length() > 21) {
            throw new IllegalArgumentException("no creditor reference can be made of " + invoice);
        }
        return "RF%02d%s".formatted(98 - remainder(body + "RF00"), body);
    }

    /** Whether a text is a creditor reference whose check digits are right; spaces and case do not count. */
    public static boolean isValid(String text) {
        var plain = letters(text);
        return plain.length() > 4
                && plain.length() <= 25
                && plain.startsWith("RF")
                && Character.isDigit(plain.charAt(2))
                && Character.isDigit(plain.charAt(3))
                && remainder(plain.substring(4) + plain.substring(0, 4)) == 1;
    }

    /** What a valid reference was made of, in letters and digits. */
    public static String body(String reference) {
        return letters(reference).substring(4);
    }

    /** A text in capital letters and digits alone, as references compare. */
    public static String letters(String text) {
        return text.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "");
    }

    /** A is 10, B is 11 and so on; the number that comes of it, modulo 97. */
    private static int remainder(String text) {
        var digits = new StringBuilder();
        text.chars().forEach(c -> digits.append(Character.digit(c, 36)));
        return new BigInteger(digits.toString()).mod(NINETY_SEVEN).intValue();
    }
}
