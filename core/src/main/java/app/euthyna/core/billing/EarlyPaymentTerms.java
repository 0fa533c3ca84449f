package app.euthyna.core.billing;

import app.euthyna.core.flow.Invoice;
import java.math.BigDecimal;
import java.time.LocalDate;

/** What is agreed with a customer for paying early: {@code 2 % within 10 days} (section 16). */
public record EarlyPaymentTerms(BigDecimal percent, int days) {

    /** On an invoice of a day. */
    public Invoice.EarlyPayment on(LocalDate day) {
        return new Invoice.EarlyPayment(percent, day.plusDays(days));
    }
}
