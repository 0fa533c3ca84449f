package app.euthyna.server.bank;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.billing.Matching;
import app.euthyna.core.billing.Matching.Candidate;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Reducing;
import app.euthyna.server.bank.BankStatements.Entry;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.math.BigDecimal;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Open invoices that something speaks for: a number in the text, the amount, the payer's name. Found by indexes,
 * whatever the number of invoices, and for many entries in as many queries as for one.
 */
@Component
class MatchCandidates {

    /** An invoice number as a payer may spell it: year, sign or not, running number. */
    private static final Pattern NUMBER = Pattern.compile("(?<![A-Za-z0-9])(20\\d\\d)[^A-Za-z0-9]?(\\d{5,7})(?![0-9])");

    private static final Pattern REFERENCE = Pattern.compile("RF\\d\\d(20\\d\\d)(\\d{5})");

    /** No more are looked at that one entry names, that agree in their amount, or that one payer owes. */
    private static final int MOST_NAMED = 100;

    private static final int MOST_OF_AN_AMOUNT = 40;
    private static final int MOST_OF_A_PAYER = 60;

    private final BankQueries queries;
    private final Company company;
    private final CompanyRulesStore rules;

    MatchCandidates(BankQueries queries, Company company, CompanyRulesStore rules) {
        this.rules = rules;
        this.queries = queries;
        this.company = company;
    }

    /** What was found for some entries. */
    record Candidates(
            Map<Long, Set<String>> numbers,
            List<Candidate> named,
            Map<BigDecimal, List<Candidate>> byAmount,
            Map<String, List<Candidate>> byPayer) {

        /** Those of one entry: what it names first, then what its amount fits, then what its payer owes. */
        List<Candidate> of(Entry entry) {
            var found = new LinkedHashMap<String, Candidate>();
            var numbers = numbers().getOrDefault(entry.id(), Set.of());
            named.stream()
                    .filter(candidate -> numbers.contains(candidate.invoice().number()))
                    .forEach(candidate -> found.put(candidate.invoice().number(), candidate));
            for (var some : List.of(
                    byAmount.getOrDefault(entry.amount().stripTrailingZeros(), List.of()),
                    byPayer.getOrDefault(folded(entry.payer()), List.of()))) {
                some.forEach(candidate -> found.putIfAbsent(candidate.invoice().number(), candidate));
            }
            return List.copyOf(found.values());
        }
    }

    /** Looks for what entries may settle. */
    Candidates candidates(List<Entry> entries) {
        var numbers = entries.stream().collect(Collectors.toMap(Entry::id, MatchCandidates::numbers));
        var amounts = entries.stream().map(Entry::amount).collect(Collectors.toSet());
        var payers = entries.stream()
                .map(entry -> folded(entry.payer()))
                .filter(payer -> !payer.isBlank())
                .collect(Collectors.toSet());
        return new Candidates(
                numbers,
                found(
                        numbers.values().stream().flatMap(Set::stream).collect(Collectors.toSet()),
                        named -> queries.byNumber(Many.names(named), MOST_NAMED)),
                found(amounts, these -> queries.byOpenAmount(these.toArray(BigDecimal[]::new), MOST_OF_AN_AMOUNT))
                        .stream()
                        .collect(Collectors.groupingBy(
                                candidate -> candidate.invoice().open().amount().stripTrailingZeros())),
                found(payers, these -> queries.byPayer(Many.names(these), MOST_OF_A_PAYER)).stream()
                        .collect(Collectors.groupingBy(candidate -> folded(candidate.customerName()))));
    }

    private static String folded(String name) {
        return name.toLowerCase(Locale.ROOT);
    }

    /** Numbers of invoices, as they stand in an entry's texts or follow from its references. */
    private static Set<String> numbers(Entry entry) {
        var text = entry.creditorReference() + " " + entry.remittance();
        return Stream.concat(
                        NUMBER.matcher(text).results(),
                        REFERENCE.matcher(CreditorReference.letters(text)).results())
                .map(match -> match.group(1) + "-" + match.group(2))
                .limit(MOST_NAMED)
                .collect(Collectors.toSet());
    }

    private Optional<Matching.Early> early(BankQueries.CandidateRow row) {
        return row.earlyPercent() == null
                ? Optional.empty()
                : Reducing.discount(
                                row.earlyPercent(), company.money(row.gross().subtract(row.credited())))
                        .filter(discount -> discount.amount().compareTo(row.openAmount()) < 0)
                        .map(discount -> new Matching.Early(discount, row.earlyUntil()));
    }

    /** What else may settle the candidates beside the money. */
    Matching.Beside beside(Collection<List<Candidate>> of) {
        return new Matching.Beside(
                credits(of), company.money(rules.inForce().receivables().smallDifference()));
    }

    private List<Matching.Credit> credits(Collection<List<Candidate>> of) {
        var customers = of.stream()
                .flatMap(List::stream)
                .map(candidate -> candidate.invoice().customer())
                .collect(Collectors.toSet());
        return customers.isEmpty()
                ? List.of()
                : queries.creditNotesLeft(Many.names(customers), MOST_OF_A_PAYER).stream()
                        .map(row -> new Matching.Credit(row.number(), row.customer(), company.money(row.leftAmount())))
                        .toList();
    }

    private <T> List<Candidate> found(Set<T> these, Function<Set<T>, List<BankQueries.CandidateRow>> asked) {
        if (these.isEmpty()) {
            return List.of();
        }
        return asked.apply(these).stream()
                .map(row -> new Candidate(
                        new OpenInvoice(
                                row.number(),
                                row.customer(),
                                company.money(row.gross()),
                                company.money(row.openAmount())),
                        row.customerName(),
                        early(row)))
                .toList();
    }
}
