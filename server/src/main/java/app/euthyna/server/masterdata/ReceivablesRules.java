package app.euthyna.server.masterdata;

import java.math.BigDecimal;

/**
 * How the company keeps its receivables (section 16).
 *
 * @param smallDifference at most so much of an invoice is written off as a small difference, in the company's currency
 * @param badDebtRelief VAT of bad debt is claimed back
 * @param disputesAside what is disputed of an invoice does not count as overdue
 */
public record ReceivablesRules(BigDecimal smallDifference, boolean badDebtRelief, boolean disputesAside) {

    public static final ReceivablesRules STANDARD = new ReceivablesRules(BigDecimal.ONE, true, true);
}
