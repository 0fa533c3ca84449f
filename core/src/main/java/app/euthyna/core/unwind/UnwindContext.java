package app.euthyna.core.unwind;

import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.CreditNote;
import app.euthyna.core.flow.Deposit;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.goods.Shelf;
import app.euthyna.core.goods.StockCount;
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
 * @param taken what else is known of what is taken back
 */
public record UnwindContext(
        List<Chain> chains,
        Map<String, Money> open,
        List<Applied> applied,
        List<RefundRules.Source> sources,
        Optional<LocalDate> closedThrough,
        RefundRules.Bounds refunds,
        Taken taken) {

    /**
     * What is known of a deposit or refund that is taken back, or of the shelves that goods of a return were put on;
     * nothing, where something else is undone.
     */
    public record Taken(Optional<DepositTaken> deposit, Optional<RefundTaken> refund, List<Stocked> shelves) {
        public static final Taken NOTHING = new Taken(Optional.empty(), Optional.empty(), List.of());

        public Taken {
            shelves = List.copyOf(shelves);
        }

        public static Taken of(DepositTaken deposit) {
            return new Taken(Optional.of(deposit), Optional.empty(), List.of());
        }

        public static Taken of(RefundTaken refund) {
            return new Taken(Optional.empty(), Optional.of(refund), List.of());
        }

        public static Taken of(List<Stocked> shelves) {
            return new Taken(Optional.empty(), Optional.empty(), shelves);
        }
    }

    /**
     * A shelf.
     *
     * @param held reservations on it that are not staged
     */
    public record Stocked(Shelf shelf, List<StockCount.Held> held) {
        public Stocked {
            held = List.copyOf(held);
        }
    }

    /**
     * A deposit with what became of it.
     *
     * @param cameFrom the deposit that it was moved from; empty where the money came in with it
     * @param refunded what was refunded of it before it became credit
     * @param movedTo deposits that it, or a part of it, went on as and that still stand
     */
    public record DepositTaken(Optional<Deposit.Origin> cameFrom, Money refunded, List<String> movedTo) {
        public DepositTaken {
            movedTo = List.copyOf(movedTo);
        }
    }

    /** A refund with how far its money is on the way to the customer. */
    public record RefundTaken(RefundRules.Refund refund, MoneyOut money) {}

    /** How far refunded money is. */
    public enum MoneyOut {
        /** It goes another way than through the payment service, or that was not asked yet. */
        NOT_SENT,
        /** The payment service was asked and has not answered. */
        ON_ITS_WAY,
        /** The payment service has carried it out. */
        PAID
    }

    /** What of a deposit is set against an invoice. */
    public record Applied(String deposit, String order, String customer, String invoice, Money amount) {}

    /** The context of what is neither a deposit nor a refund. */
    public UnwindContext(
            List<Chain> chains,
            Map<String, Money> open,
            List<Applied> applied,
            List<RefundRules.Source> sources,
            Optional<LocalDate> closedThrough,
            RefundRules.Bounds refunds) {
        this(chains, open, applied, sources, closedThrough, refunds, Taken.NOTHING);
    }

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

    CreditNote credit(String number) {
        return Chain.allCredits(chains).stream()
                .filter(credit -> credit.number().equals(number))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("credit note " + number + " is not in " + this));
    }

    /** What was written off with a document; empty where that was taken back. */
    Optional<Reduction> writeOff(DocumentRef document) {
        return chains.stream()
                .flatMap(chain -> chain.invoices().stream())
                .flatMap(invoice -> invoice.writtenOff().stream())
                .filter(one -> one.document().equals(document))
                .findFirst();
    }

    Deposit deposit(String number) {
        return chains.stream()
                .flatMap(chain -> chain.deposits().stream())
                .filter(deposit -> deposit.number().equals(number))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException("deposit " + number + " is not in " + this));
    }

    Optional<RefundRules.Source> source(DocumentRef document) {
        return sources.stream().filter(s -> s.document().equals(document)).findFirst();
    }
}
