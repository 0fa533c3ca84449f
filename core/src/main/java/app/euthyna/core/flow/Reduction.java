package app.euthyna.core.flow;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Vat;
import java.time.LocalDate;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * What of an invoice is settled without money: a write-off, or a discount for paying early (section 16).
 *
 * @param document the write-off itself; of a discount, whose money it was taken with
 * @param orders all that stand on the invoice, whose chains hold it whole
 * @param amount by which less is open, VAT included
 * @param shares by category and rate of VAT, where VAT is reduced with it (Directive 2006/112/EC art. 90); empty where
 *     it is not
 */
public record Reduction(
        Kind kind,
        DocumentRef document,
        String customer,
        String invoice,
        Set<String> orders,
        LocalDate on,
        Money amount,
        String reason,
        List<Share> shares) {

    /** Why it need not be paid. */
    public enum Kind {
        /** A few cents that are not worth asking for. */
        SMALL_DIFFERENCE,
        /** The customer does not pay. */
        BAD_DEBT,
        /** The customer paid early. */
        DISCOUNT
    }

    /**
     * The part of it under one category and rate of VAT.
     *
     * @param base taxable amount of the invoice, less its credits, when it was reduced
     */
    public record Share(Vat vat, Money base, Money net, Money tax) {}

    public Reduction {
        // sorted, so that a chain reads the same in every process
        orders = Collections.unmodifiableSortedSet(new TreeSet<>(orders));
        shares = List.copyOf(shares);
    }

    /** Whether it was taken with the money of a payment; a write-off is a document of its own. */
    public boolean isDiscount() {
        return kind == Kind.DISCOUNT;
    }

    /** The document that its entry and its history are of: the invoice of a discount; a write-off itself. */
    public DocumentRef standsWith() {
        return isDiscount() ? new DocumentRef(DocumentKind.INVOICE, invoice) : document;
    }

    /** The VAT that is reduced with it. */
    public Money tax() {
        return shares.stream().map(Share::tax).reduce(amount.minus(amount), Money::plus);
    }

    /** The same, whatever day it is told of. */
    boolean isSameAs(Reduction other) {
        return kind == other.kind && document.equals(other.document) && invoice.equals(other.invoice);
    }
}
