package app.euthyna.core.billing;

import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.Money;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Sets money that a bank statement tells of against open invoices: proposals with the reason, the likeliest first
 * (section 7).
 */
public final class Matching {

    private Matching() {}

    /**
     * Money that came in.
     *
     * @param reference the structured creditor reference, or empty
     * @param remittance what the payer wrote
     */
    public record Received(Money amount, String payer, String reference, String remittance) {}

    /** An invoice that something is open of, with its customer's name. */
    public record Candidate(OpenInvoice invoice, String customerName) {}

    /** How sure a proposal is. */
    public enum Sureness {
        /** A checked reference or the very number, and the amount fits to the cent. */
        CERTAIN,
        /** The number or a reference is there, or the payer is known and the amount fits. */
        LIKELY,
        /** The amount alone, or the payer alone. */
        POSSIBLE
    }

    /** Invoices of one customer that the money is to settle; what is more stays on account. */
    public record Proposal(String customer, List<Settlement> settlements, Sureness sureness, String reason) {
        public Proposal {
            settlements = List.copyOf(settlements);
        }
    }

    /** Proposals for money that came in, the likeliest first; none where nothing speaks for any. */
    public static List<Proposal> propose(Received received, List<Candidate> open) {
        var proposals = new ArrayList<Proposal>();
        named(received, open).ifPresent(proposals::add);
        var payer = fold(received.payer());
        for (var candidate : open) {
            var fits = candidate.invoice().open().equals(received.amount());
            var known = !payer.isEmpty()
                    && (fold(candidate.customerName()).equals(payer)
                            || candidate.invoice().customer().equalsIgnoreCase(received.payer()));
            if (fits && known) {
                proposals.add(one(
                        received,
                        candidate,
                        Sureness.LIKELY,
                        "The payer is %s, and the amount equals the open amount of invoice %s."
                                .formatted(
                                        candidate.customerName(),
                                        candidate.invoice().number())));
            } else if (fits) {
                proposals.add(one(
                        received,
                        candidate,
                        Sureness.POSSIBLE,
                        "The amount equals the open amount of invoice %s of %s."
                                .formatted(candidate.invoice().number(), candidate.customerName())));
            }
        }
        if (!payer.isEmpty()) {
            var own = open.stream()
                    .filter(c -> fold(c.customerName()).equals(payer))
                    .toList();
            var sum = own.stream().map(c -> c.invoice().open()).reduce(Money::plus);
            if (own.size() > 1 && sum.filter(received.amount()::equals).isPresent()) {
                proposals.add(new Proposal(
                        own.get(0).invoice().customer(),
                        own.stream()
                                .map(c -> new Settlement(
                                        c.invoice().number(), c.invoice().open()))
                                .toList(),
                        Sureness.LIKELY,
                        "The payer is %s, and the amount equals all open invoices."
                                .formatted(own.get(0).customerName())));
            } else if (!own.isEmpty()) {
                proposals.add(new Proposal(
                        own.get(0).invoice().customer(),
                        oldestFirst(received.amount(), own),
                        Sureness.POSSIBLE,
                        "The payer is %s; the oldest invoices are settled first."
                                .formatted(own.get(0).customerName())));
            }
        }
        return proposals.stream()
                .sorted(Comparator.comparing(Proposal::sureness))
                .filter(distinct())
                .limit(8)
                .toList();
    }

    /** Invoices that the payer names, by reference or number. */
    private static Optional<Proposal> named(Received received, List<Candidate> open) {
        var written = received.reference() + " " + received.remittance();
        var text = CreditorReference.letters(written);
        var checked = new HashSet<String>();
        if (CreditorReference.isValid(received.reference())) {
            checked.add(CreditorReference.body(received.reference()));
        }
        for (var candidate : open) {
            var own = CreditorReference.of(candidate.invoice().number());
            if (text.contains(own)) {
                checked.add(CreditorReference.body(own));
            }
        }
        var named = open.stream()
                .filter(c -> checked.contains(letters(c))
                        || mentions(written, c.invoice().number()))
                .toList();
        if (named.isEmpty()) {
            return Optional.empty();
        }
        var customer = named.get(0).invoice().customer();
        var own = named.stream()
                .filter(c -> c.invoice().customer().equals(customer))
                .toList();
        var sum = own.stream().map(c -> c.invoice().open()).reduce(Money::plus).orElseThrow();
        var fits = sum.equals(received.amount());
        var by = own.stream().allMatch(c -> checked.contains(letters(c)))
                ? "The creditor reference names invoice "
                : "The payer names invoice ";
        var reason = by
                + String.join(", ", own.stream().map(c -> c.invoice().number()).toList())
                + (fits
                        ? ", and the amount equals the open amount."
                        : ", but %s is open and %s was received.".formatted(sum, received.amount()));
        return Optional.of(new Proposal(
                customer,
                oldestFirst(received.amount(), own),
                fits && own.size() == named.size() ? Sureness.CERTAIN : Sureness.LIKELY,
                reason));
    }

    /** The number stands in the text, in whatever spelling, and is no part of a longer one. */
    private static boolean mentions(String text, String number) {
        var spelled = CreditorReference.letters(number)
                .chars()
                .mapToObj(c -> String.valueOf((char) c))
                .collect(Collectors.joining("[^A-Za-z0-9]?"));
        return Pattern.compile("(?<![A-Za-z0-9])" + spelled + "(?![0-9])", Pattern.CASE_INSENSITIVE)
                .matcher(text)
                .find();
    }

    private static String letters(Candidate candidate) {
        return CreditorReference.letters(candidate.invoice().number());
    }

    private static Proposal one(Received received, Candidate candidate, Sureness sureness, String reason) {
        return new Proposal(
                candidate.invoice().customer(),
                List.of(new Settlement(candidate.invoice().number(), received.amount())),
                sureness,
                reason);
    }

    private static List<Settlement> oldestFirst(Money amount, List<Candidate> invoices) {
        var left = amount;
        var settlements = new ArrayList<Settlement>();
        for (var candidate : invoices) {
            var taken = left.min(candidate.invoice().open());
            if (taken.isPositive()) {
                settlements.add(new Settlement(candidate.invoice().number(), taken));
                left = left.minus(taken);
            }
        }
        return settlements;
    }

    private static Predicate<Proposal> distinct() {
        var seen = new HashSet<Set<Settlement>>();
        return proposal -> seen.add(Set.copyOf(proposal.settlements()));
    }

    /** A name without case, signs and spaces. */
    private static String fold(String name) {
        return CreditorReference.letters(Normalizer.normalize(name, Normalizer.Form.NFD));
    }
}
