package app.euthyna.core.trail;

import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.time.LocalDate;

/**
 * Customer credit that was refunded.
 *
 * @param source whose credit it was
 * @param reversed it did not reach the customer
 */
public record RefundFact(String number, DocumentRef source, LocalDate on, Money amount, boolean reversed) {}
