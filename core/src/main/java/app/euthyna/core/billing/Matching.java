package app.euthyna.core.billing;

import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import java.text.Normalizer;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
     * @param bookedOn by the bank
     */
    public record Received(Money amount, String payer, String reference, String remittance, LocalDate bookedOn) {

        private boolean isFrom(Candidate candidate) {
            var folded = fold(payer);
            return !folded.isEmpty()
                    && (fold(candidate.customerName()).equals(folded)
                            || candidate.invoice().customer().equalsIgnoreCase(payer));
        }
    }

    /**
     * A discount for paying early that no one has taken.
     *
     * @param until the last day on which it may be taken
     */
    public record Early(Money discount, LocalDate until) {}

    /** An invoice that something is open of, with its customer's name. */
    public record Candidate(OpenInvoice invoice, String customerName, Optional<Early> early) {

        /** What settles it with money that came on a day. */
        private Money due(LocalDate on) {
            return early.filter(agreed -> !on.isAfter(agreed.until()))
                    .map(agreed -> invoice.open().minus(agreed.discount()))
                    .orElse(invoice.open());
        }

        private boolean isLess(LocalDate on) {
            return !due(on).equals(invoice.open());
        }
    }

    /** Customer credit that a credit note has left. */
    public record Credit(String creditNote, String customer, Money left) {}

    /**
     * What else may settle invoices beside the money.
     *
     * @param credits of the candidates' customers
     * @param smallDifference so much may be written off of an invoice
     */
    public record Beside(List<Credit> credits, Money smallDifference) {
        public Beside {
            credits = List.copyOf(credits);
        }
    }

    /** How sure a proposal is. */
    public enum Sureness {
        /** A checked reference or the very number, and the amount fits to the cent. */
        CERTAIN,
        /** The number or a reference is there, or the payer is known and the amount fits. */
        LIKELY,
        /** The amount alone, or the payer alone. */
        POSSIBLE
    }

    /**
     * Invoices of one customer that money is to settle.
     *
     * @param discounted those that it settles with their discount
     * @param credits what credit notes settle beside it, by their number
     * @param writtenOff what of an invoice is written off as a small difference
     */
    public record Part(
            String customer,
            List<Settlement> settlements,
            Set<String> discounted,
            Map<String, List<Settlement>> credits,
            Optional<Settlement> writtenOff) {
        public Part {
            settlements = List.copyOf(settlements);
            discounted = Set.copyOf(discounted);
            credits = Map.copyOf(credits);
        }

        /** Money alone, that settles what it settles. */
        public static Part of(String customer, List<Settlement> settlements) {
            return new Part(customer, settlements, Set.of(), Map.of(), Optional.empty());
        }

        private Part without(Settlement cents) {
            return new Part(customer, settlements, discounted, credits, Optional.of(cents));
        }

        private Part with(String creditNote, Settlement settled) {
            return new Part(customer, settlements, discounted, Map.of(creditNote, List.of(settled)), writtenOff);
        }
    }

    /** Invoices that the money is to settle, customer by customer; what is more stays on account of the first. */
    public record Proposal(List<Part> parts, Sureness sureness, String reason) {
        public Proposal {
            parts = List.copyOf(parts);
        }

        private static Proposal of(String customer, List<Settlement> settlements, Sureness sureness, String reason) {
            return new Proposal(List.of(Part.of(customer, settlements)), sureness, reason);
        }

        /** All that the money itself settles. */
        public List<Settlement> settlements() {
            return parts.stream().flatMap(part -> part.settlements().stream()).toList();
        }
    }

    /** Proposals for money that came in, the likeliest first; none where nothing speaks for any. */
    public static List<Proposal> propose(Received received, List<Candidate> open, Beside beside) {
        var proposals = new ArrayList<>(named(received, open, beside));
        for (var candidate : open) {
            if (candidate.invoice().open().equals(received.amount())) {
                proposals.add(
                        received.isFrom(candidate)
                                ? one(
                                        received,
                                        candidate,
                                        Sureness.LIKELY,
                                        "The payer is %s, and the amount equals the open amount of invoice %s."
                                                .formatted(
                                                        candidate.customerName(),
                                                        candidate.invoice().number()))
                                : one(
                                        received,
                                        candidate,
                                        Sureness.POSSIBLE,
                                        "The amount equals the open amount of invoice %s of %s."
                                                .formatted(candidate.invoice().number(), candidate.customerName())));
            }
        }
        var own = open.stream().filter(received::isFrom).toList();
        if (!own.isEmpty()) {
            proposals.addAll(ofPayer(received, own, beside));
        }
        return proposals.stream()
                .sorted(Comparator.comparing(Proposal::sureness))
                .filter(distinct())
                .limit(8)
                .toList();
    }

    /** What the payer's own invoices come to, one by one or together, and what may settle them beside the money. */
    private static List<Proposal> ofPayer(Received received, List<Candidate> own, Beside beside) {
        var proposals = new ArrayList<Proposal>();
        var by = "The payer is %s".formatted(own.get(0).customerName());
        own.forEach(candidate ->
                less(received, List.of(candidate), by, Sureness.LIKELY).ifPresent(proposals::add));
        var customers = own.stream().map(c -> c.invoice().customer()).distinct().count();
        if (customers == 1) {
            if (own.size() > 1 && sum(own).equals(received.amount())) {
                proposals.add(Proposal.of(
                        own.get(0).invoice().customer(),
                        own.stream().map(Matching::all).toList(),
                        Sureness.LIKELY,
                        by + ", and the amount equals all open invoices."));
            }
            pairs(own).forEach(pair -> lessCredit(received, pair, beside, by).ifPresent(proposals::add));
            own.forEach(candidate ->
                    shortByCents(received, List.of(candidate), beside, by).ifPresent(proposals::add));
        }
        if (proposals.isEmpty()) {
            proposals.add(Proposal.of(
                    own.get(0).invoice().customer(),
                    oldestFirst(
                            received.amount(),
                            own.stream()
                                    .filter(c -> c.invoice()
                                            .customer()
                                            .equals(own.get(0).invoice().customer()))
                                    .toList()),
                    Sureness.POSSIBLE,
                    by + "; the oldest invoices are settled first."));
        }
        return proposals;
    }

    /** Each alone, and each two together: more are not guessed at. */
    private static List<List<Candidate>> pairs(List<Candidate> own) {
        var pairs = new ArrayList<List<Candidate>>();
        for (int i = 0; i < own.size(); i++) {
            pairs.add(List.of(own.get(i)));
            for (int j = i + 1; j < own.size(); j++) {
                pairs.add(List.of(own.get(i), own.get(j)));
            }
        }
        return pairs;
    }

    /** The amount is short by just the discounts of invoices, and came within their days. */
    private static Optional<Proposal> less(Received received, List<Candidate> invoices, String by, Sureness sureness) {
        var discounted =
                invoices.stream().filter(one -> one.isLess(received.bookedOn())).toList();
        var due = invoices.stream().map(one -> one.due(received.bookedOn())).reduce(Money::plus);
        if (discounted.isEmpty() || due.filter(received.amount()::equals).isEmpty()) {
            return Optional.empty();
        }
        var discount = discounted.stream()
                .map(one -> one.early().orElseThrow().discount())
                .reduce(Money::plus)
                .orElseThrow();
        var until = discounted.stream()
                .map(one -> one.early().orElseThrow().until())
                .min(Comparator.naturalOrder())
                .orElseThrow();
        return Optional.of(new Proposal(
                List.of(new Part(
                        invoices.get(0).invoice().customer(),
                        invoices.stream()
                                .map(one -> new Settlement(one.invoice().number(), one.due(received.bookedOn())))
                                .toList(),
                        discounted.stream().map(one -> one.invoice().number()).collect(Collectors.toSet()),
                        Map.of(),
                        Optional.empty())),
                sureness,
                "%s, and the amount is short of %s by just its early-payment discount of %s, which may be taken until %s."
                        .formatted(by, numbers(invoices), discount, Figures.day(until))));
    }

    /** The amount is what invoices come to less what a credit note has left. */
    private static Optional<Proposal> lessCredit(
            Received received, List<Candidate> invoices, Beside beside, String by) {
        var customer = invoices.get(0).invoice().customer();
        var last = invoices.get(invoices.size() - 1).invoice();
        return beside.credits().stream()
                .filter(credit -> credit.customer().equals(customer)
                        && credit.left().compareTo(last.open()) < 0
                        && sum(invoices).minus(credit.left()).equals(received.amount()))
                .findFirst()
                .map(credit -> new Proposal(
                        List.of(Part.of(
                                        customer,
                                        invoices.stream()
                                                .map(one -> one.invoice().equals(last)
                                                        ? new Settlement(
                                                                last.number(),
                                                                last.open().minus(credit.left()))
                                                        : all(one))
                                                .toList())
                                .with(credit.creditNote(), new Settlement(last.number(), credit.left()))),
                        mentions(received.reference() + " " + received.remittance(), credit.creditNote())
                                ? Sureness.CERTAIN
                                : Sureness.LIKELY,
                        "%s, and the amount equals %s less the %s of credit note %s."
                                .formatted(by, numbers(invoices), credit.left(), credit.creditNote())));
    }

    /** The amount is short by so little that the rest may be written off. */
    private static Optional<Proposal> shortByCents(
            Received received, List<Candidate> invoices, Beside beside, String by) {
        var missing = sum(invoices).minus(received.amount());
        var last = invoices.get(invoices.size() - 1).invoice();
        if (!missing.isPositive()
                || missing.compareTo(beside.smallDifference()) > 0
                || missing.compareTo(last.open()) >= 0) {
            return Optional.empty();
        }
        return Optional.of(new Proposal(
                List.of(Part.of(last.customer(), oldestFirst(received.amount(), invoices))
                        .without(new Settlement(last.number(), missing))),
                Sureness.LIKELY,
                "%s, and the amount is short of %s by %s, which is written off."
                        .formatted(by, numbers(invoices), missing)));
    }

    private static Money sum(List<Candidate> invoices) {
        return invoices.stream()
                .map(one -> one.invoice().open())
                .reduce(Money::plus)
                .orElseThrow();
    }

    private static Settlement all(Candidate candidate) {
        return new Settlement(candidate.invoice().number(), candidate.invoice().open());
    }

    private static String numbers(List<Candidate> invoices) {
        return (invoices.size() == 1 ? "invoice " : "invoices ")
                + String.join(
                        ", ", invoices.stream().map(c -> c.invoice().number()).toList());
    }

    /** Invoices that the payer names, by reference or number. */
    private static List<Proposal> named(Received received, List<Candidate> open, Beside beside) {
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
            return List.of();
        }
        var by = named.stream().allMatch(c -> checked.contains(letters(c)))
                ? "The creditor reference names " + numbers(named)
                : "The payer names " + numbers(named);
        if (sum(named).equals(received.amount())) {
            return List.of(
                    new Proposal(byCustomer(named), Sureness.CERTAIN, by + ", and the amount equals the open amount."));
        }
        var customer = named.get(0).invoice().customer();
        var own = named.stream()
                .filter(c -> c.invoice().customer().equals(customer))
                .toList();
        if (own.size() == named.size()) {
            var better = less(received, own, by, Sureness.CERTAIN)
                    .or(() -> lessCredit(received, own, beside, by))
                    .or(() -> shortByCents(received, own, beside, by));
            if (better.isPresent()) {
                return List.of(better.get());
            }
        }
        return List.of(Proposal.of(
                customer,
                oldestFirst(received.amount(), own),
                Sureness.LIKELY,
                by + ", but %s is open and %s was received.".formatted(sum(own), received.amount())));
    }

    /** What invoices come to, customer by customer in the sequence in which they were found. */
    private static List<Part> byCustomer(List<Candidate> invoices) {
        var parts = new LinkedHashMap<String, List<Settlement>>();
        invoices.forEach(one -> parts.computeIfAbsent(one.invoice().customer(), c -> new ArrayList<>())
                .add(all(one)));
        return parts.entrySet().stream()
                .map(part -> Part.of(part.getKey(), part.getValue()))
                .toList();
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
        return Proposal.of(
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
        return proposal -> seen.add(new HashSet<>(proposal.settlements()));
    }

    /** A name without case, signs and spaces. */
    private static String fold(String name) {
        return CreditorReference.letters(Normalizer.normalize(name, Normalizer.Form.NFD));
    }
}
