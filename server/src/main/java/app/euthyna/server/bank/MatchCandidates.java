package app.euthyna.server.bank;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.billing.Matching.Candidate;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.server.bank.BankStatements.Entry;
import app.euthyna.server.platform.Company;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.jdbc.core.simple.JdbcClient;
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

    private final JdbcClient jdbc;
    private final Company company;

    MatchCandidates(JdbcClient jdbc, Company company) {
        this.jdbc = jdbc;
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
        return new Candidates(
                numbers,
                found(
                        "i.number",
                        "i.number in (:these)",
                        MOST_NAMED,
                        numbers.values().stream().flatMap(Set::stream).collect(Collectors.toSet())),
                found(
                                "i.open_amount",
                                "i.open_amount in (:these)",
                                MOST_OF_AN_AMOUNT,
                                entries.stream().map(Entry::amount).collect(Collectors.toSet()))
                        .stream()
                        .collect(Collectors.groupingBy(
                                candidate -> candidate.invoice().open().amount().stripTrailingZeros())),
                found(
                                "i.customer_id",
                                "i.customer_id in (select id from customer where lower(name) in (:these))",
                                MOST_OF_A_PAYER,
                                entries.stream()
                                        .map(entry -> folded(entry.payer()))
                                        .filter(payer -> !payer.isBlank())
                                        .collect(Collectors.toSet()))
                        .stream()
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

    /** Open invoices, the longest due first; so many at most that agree in {@code per}. */
    private List<Candidate> found(String per, String which, int most, Set<?> these) {
        if (these.isEmpty()) {
            return List.of();
        }
        return jdbc.sql("""
            select i.number, c.code, i.gross, i.open_amount, c.name from (
                select i.id, i.number, i.customer_id, i.gross, i.open_amount, i.due_on,
                    row_number() over (partition by PER order by i.due_on, i.id) as place
                from invoice i where i.open_amount > 0 and WHICH) i
            join customer c on c.id = i.customer_id
            where i.place <= :most order by i.due_on, i.id\
            """.replace("PER", per).replace("WHICH", which))
                .param("most", most)
                .param("these", these)
                .query((r, n) -> new Candidate(
                        new OpenInvoice(
                                r.getString(1),
                                r.getString(2),
                                company.money(r.getBigDecimal(3)),
                                company.money(r.getBigDecimal(4))),
                        r.getString(5)))
                .list();
    }
}
