package app.euthyna.core.check;

import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.util.Map;
import java.util.Optional;

/**
 * The figures of the company that checks hold orders against; what is empty is not looked at.
 *
 * @param overdue when invoices count as overdue, for customers without an agreement of their own
 * @param minimumMargin least margin of a line, per cent of its price after discount
 * @param discountUpTo most discount that a role may give, per cent; roles left out may give any
 * @param unusualScore robust z-score from which an order is unusual
 */
public record CheckFigures(
        Optional<CustomerRules.Overdue> overdue,
        Optional<BigDecimal> minimumMargin,
        Map<Role, BigDecimal> discountUpTo,
        BigDecimal unusualScore) {

    /**
     * Source: B. Iglewicz and D. Hoaglin, How to Detect and Handle Outliers (1993), by way of the NIST/SEMATECH
     * e-Handbook, 1.3.5.17.
     */
    public static final BigDecimal USUAL_SCORE = new BigDecimal("3.5");

    public static final CheckFigures NONE = new CheckFigures(Optional.empty(), Optional.empty(), Map.of(), USUAL_SCORE);

    public CheckFigures {
        discountUpTo = Map.copyOf(discountUpTo);
    }
}
