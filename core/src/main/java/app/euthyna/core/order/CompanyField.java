package app.euthyna.core.order;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Optional;

/**
 * A field of the company's own on its orders.
 *
 * @param code by which its values are kept; it does not change when the label does
 * @param choices of a list, in the order in which they are shown; empty for the other kinds
 * @param required an order is not submitted without it
 */
public record CompanyField(String code, String label, Kind kind, List<String> choices, boolean required) {

    /** What a field takes. */
    public enum Kind {
        TEXT,
        NUMBER,
        DATE,
        LIST
    }

    /** The longest text that a field takes. */
    public static final int LONGEST = 200;

    public CompanyField {
        choices = List.copyOf(choices);
    }

    /** What is expected instead of a value, if it is no value of this field. An empty value is always one. */
    public Optional<String> expectedInstead(String value) {
        if (value.isEmpty()) {
            return Optional.empty();
        }
        return switch (kind) {
            case TEXT ->
                value.length() <= LONGEST && value.chars().noneMatch(Character::isISOControl)
                        ? Optional.empty()
                        : Optional.of("a text on one line, of at most " + LONGEST + " characters");
            case NUMBER -> isNumber(value) ? Optional.empty() : Optional.of("a number, such as 12.5");
            case DATE -> isDate(value) ? Optional.empty() : Optional.of("a date, such as 2026-03-02");
            case LIST ->
                choices.contains(value) ? Optional.empty() : Optional.of("one of " + String.join(", ", choices));
        };
    }

    private static boolean isNumber(String value) {
        try {
            return value.length() <= 30 && new BigDecimal(value).precision() <= 20;
        } catch (NumberFormatException none) {
            return false;
        }
    }

    private static boolean isDate(String value) {
        try {
            LocalDate.parse(value);
            return true;
        } catch (DateTimeParseException none) {
            return false;
        }
    }
}
