package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.util.Currency;
import java.util.List;

/**
 * What a customer owes and is about to owe, by its terms (section 4, credit-limit), each with the documents that make
 * it up.
 *
 * @param unpaid open amounts of invoices, gross
 * @param dispatchedNotInvoiced at order price, gross
 * @param clearedNotDispatched of all cleared orders, gross
 * @param unapplied deposits and customer credit that settle nothing yet
 */
public record CustomerPosition(Term unpaid, Term dispatchedNotInvoiced, Term clearedNotDispatched, Term unapplied) {

    /** A sum with the documents behind it; a long list may be cut, the sum never is. */
    public record Term(Money sum, List<DocumentAmount> documents) {
        public Term {
            documents = List.copyOf(documents);
        }

        public static Term nothing(Currency currency) {
            return new Term(Money.zero(currency), List.of());
        }
    }

    /** Of a customer who owes nothing. */
    public static CustomerPosition nothing(Currency currency) {
        var none = Term.nothing(currency);
        return new CustomerPosition(none, none, none, none);
    }

    /** Unpaid + dispatched, not invoiced + cleared, not dispatched − unapplied. */
    public Money exposure() {
        return unpaid.sum()
                .plus(dispatchedNotInvoiced.sum())
                .plus(clearedNotDispatched.sum())
                .minus(unapplied.sum());
    }
}
