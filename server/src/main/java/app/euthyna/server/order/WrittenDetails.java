package app.euthyna.server.order;

import app.euthyna.core.order.Details;
import app.euthyna.core.order.ShipTo;
import app.euthyna.server.platform.Texts;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.Locale;
import java.util.Map;

/**
 * What an order is to say beside its lines, as it is sent; a revenue unit that is left out is the standard one. A
 * replacement names the return or dispatch that it replaces by its number.
 */
public record WrittenDetails(
        @Size(max = 120) String externalReference,
        @Size(max = 40) String revenueUnit,
        @Valid WrittenShipTo shipTo,
        @Size(max = 60) Map<String, @Size(max = 200) String> fields,
        @Size(max = 40) String replaces) {

    /** Where the goods of this order alone go; the country by ISO 3166. */
    public record WrittenShipTo(
            @Size(max = 200) String name,
            @Size(max = 200) String street,
            @Size(max = 20) String postcode,
            @Size(max = 120) String town,

            @Pattern(regexp = "|[A-Za-z]{2}", message = "a two-letter country code such as IE")
            String country) {
        private ShipTo core() {
            return new ShipTo(
                    Texts.given(name),
                    Texts.given(street),
                    Texts.given(postcode),
                    Texts.given(town),
                    Texts.given(country).toUpperCase(Locale.ROOT));
        }
    }

    public Details core() {
        return new Details(
                Texts.given(externalReference),
                revenueUnit,
                shipTo == null ? ShipTo.CUSTOMER : shipTo.core(),
                fields == null ? Map.of() : fields,
                Texts.given(replaces).strip());
    }
}
