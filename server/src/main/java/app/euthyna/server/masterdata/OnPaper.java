package app.euthyna.server.masterdata;

import java.math.BigDecimal;

/**
 * What stands on paper for a customer, whom to call there, and the share of an order that is asked for ahead.
 *
 * @param country by its two letters (ISO 3166); empty where it is not known
 * @param contact the person to call, and {@code phone} at what number; empty where that is not known
 * @param depositPercent of an order's gross
 */
public record OnPaper(
        String street,
        String postcode,
        String town,
        String country,
        String vatId,
        String email,
        String contact,
        String phone,
        BigDecimal depositPercent) {}
