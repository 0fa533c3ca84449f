package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.Optional;

/**
 * What the company agreed with a customer, as far as checks ask for it. No limit means that there is none.
 *
 * @param overdue empty where invoices past due hold nothing; the customer's own agreement, or the company's rule
 * @param block empty unless the customer is blocked
 */
public record CustomerRules(
        String code, Optional<Money> creditLimit, PoPolicy po, Optional<Overdue> overdue, Optional<Block> block) {

    /** Invoices count that are more than so many days past due, with more than an amount open. */
    public record Overdue(int days, Money above) {}

    /** Who blocked the customer, when and why. */
    public record Block(String by, LocalDate on, String why) {}
}
