package app.euthyna.core.order;

import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Where the goods of one order go when it is not to the customer itself.
 *
 * @param country ISO 3166 alpha-2, or empty for the company's own
 */
public record ShipTo(String name, String street, String postcode, String town, String country) {

    /** To the customer, as always. */
    public static final ShipTo CUSTOMER = new ShipTo("", "", "", "", "");

    public ShipTo {
        Stream.of(name, street, postcode, town, country).forEach(Objects::requireNonNull);
    }

    /** Whether the order says where its goods go. */
    public boolean isOwn() {
        return !equals(CUSTOMER);
    }

    /** On one line; empty for the customer itself. */
    public String words() {
        return Stream.of(name, street, (postcode + " " + town).strip(), country)
                .filter(part -> !part.isBlank())
                .collect(Collectors.joining(", "));
    }
}
