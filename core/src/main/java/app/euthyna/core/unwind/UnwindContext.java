package app.euthyna.core.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import java.time.LocalDate;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * All that a plan looks at: the orders that it concerns with what grew from them, and the money that hangs on them.
 *
 * @param chains of every order of the document that is undone
 * @param open what the chains' invoices have open, by number
 * @param applied deposits that settle these invoices, whatever order they are for
 * @param sources of customer credit, and payments, that settle these invoices or are to be refunded
 * @param closedThrough the last day of the closed periods
 * @param refunds what bounds whoever refunds
 */
public record UnwindContext(
        List<Chain> chains,
        Map<String, Money> open,
        List<Applied> applied,
        List<RefundRules.Source> sources,
        Optional<LocalDate> closedThrough,
        RefundRules.Bounds refunds) {

    /** What of a deposit is set against an invoice. */
    public record Applied(String deposit, String order, String customer, String invoice, Money amount) {}

    public UnwindContext {
        chains = List.copyOf(chains);
        // sorted, so that an unwind context reads the same in every process
        open = Collections.unmodifiableMap(new TreeMap<>(open));
        applied = List.copyOf(applied);
        sources = List.copyOf(sources);
    }

    Chain order(String number) {
        return chains.stream()
                .filter(c -> c.order().number().equals(number))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("order " + number + " is not in " + this));
    }

    /** The chain of a dispatch's order. */
    Chain dispatch(String number) {
        return chains.stream()
                .filter(c -> c.dispatches().stream().anyMatch(d -> d.number().equals(number)))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("dispatch " + number + " is not in " + this));
    }

    Invoice invoice(String number) {
        return chains.stream()
                .flatMap(c -> c.invoices().stream())
                .filter(i -> i.number().equals(number))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("invoice " + number + " is not in " + this));
    }

    Optional<RefundRules.Source> source(DocumentRef document) {
        return sources.stream().filter(s -> s.document().equals(document)).findFirst();
    }
}
