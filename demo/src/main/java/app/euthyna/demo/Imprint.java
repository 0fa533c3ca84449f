package app.euthyna.demo;

import app.euthyna.core.shared.DocumentKind;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * How what is written in a text reads in a copy of the company: numbers of documents are moved on by as many as there
 * are of the kind, and customers are others of the same name with the number of the copy. Everything else stays.
 */
final class Imprint {

    /** Numbers of documents begin after this one, those of entries after none. */
    static final long FIRST = 1000;
    /** So far the codes of customers lie apart from one copy to the next. */
    private static final int CUSTOMERS_APART = 1000;

    private static final String REFERENCE = "SK-";
    private static final String PREFIXES = Arrays.stream(DocumentKind.values())
            .map(DocumentKind::prefix)
            .filter(prefix -> !prefix.isEmpty())
            .map(Pattern::quote)
            .collect(Collectors.joining("|", "(?<prefix>", "|" + REFERENCE + ")(?<number>\\d+)"));
    private static final String BY_YEAR = "(?<year>C?20\\d\\d)-(?<ofYear>\\d{5,})";

    private final Pattern tokens;
    private final Map<String, String> codes = new HashMap<>();
    private final Map<String, Long> spans = new HashMap<>();
    private final Map<String, Long> spansOfYear;

    /**
     * @param customers their names by code
     * @param spansOfYear how many documents each series by year has, such as 2026 and C2026
     */
    Imprint(Map<String, String> customers, Map<String, Long> spansOfYear) {
        this.spansOfYear = Map.copyOf(spansOfYear);
        customers.forEach((code, name) -> {
            codes.put(code, code);
            codes.put(name, name);
        });
        var named = customers.entrySet().stream()
                .flatMap(e -> List.of(e.getKey(), e.getValue()).stream())
                .sorted(Comparator.comparingInt(String::length).reversed())
                .map(Pattern::quote)
                .collect(Collectors.joining("|"));
        this.tokens = Pattern.compile("(?<!\\w)(?:%s|%s|(?<customer>%s))(?![\\w/])"
                .formatted(PREFIXES, BY_YEAR, named.isEmpty() ? "(?!)" : named));
    }

    /** A text that may read otherwise in each copy. */
    interface Text {
        String in(int copy);
    }

    /** Learns from what is written how many documents of each kind there are. */
    void learn(String text) {
        for (var at = tokens.matcher(text); at.find(); ) {
            if (at.group("prefix") != null) {
                var prefix = at.group("prefix");
                spans.merge(prefix, Long.parseLong(at.group("number")) - before(prefix), Math::max);
            }
        }
    }

    /** Entries are numbered from one on. */
    private static long before(String prefix) {
        return prefix.equals(DocumentKind.ENTRY.prefix()) ? 0 : FIRST;
    }

    /** How many documents of a kind there are. */
    long span(DocumentKind kind) {
        return Math.max(0, spans.getOrDefault(kind.prefix(), 0L));
    }

    long spanOfYear(String series) {
        return spansOfYear.getOrDefault(series, 0L);
    }

    /** The text in each of the copies; the same object where none differs. */
    Object of(String text) {
        var parts = new ArrayList<Text>();
        var from = 0;
        var at = tokens.matcher(text);
        while (at.find()) {
            var before = text.substring(from, at.start());
            parts.add(copy -> before);
            parts.add(token(at));
            from = at.end();
        }
        if (parts.isEmpty()) {
            return text;
        }
        var rest = text.substring(from);
        return (Text) copy -> {
            var read = new StringBuilder(text.length() + 16);
            parts.forEach(part -> read.append(part.in(copy)));
            return read.append(rest).toString();
        };
    }

    private Text token(Matcher at) {
        if (at.group("prefix") != null) {
            var prefix = at.group("prefix");
            var number = Long.parseLong(at.group("number"));
            var span = spans.getOrDefault(prefix, 0L);
            return copy -> prefix + (number + span * copy);
        }
        if (at.group("year") != null) {
            var year = at.group("year");
            var number = Long.parseLong(at.group("ofYear"));
            var span = spanOfYear(year);
            return copy -> "%s-%05d".formatted(year, number + span * copy);
        }
        var customer = at.group("customer");
        return customer.matches("C\\d+")
                ? copy -> "C" + (Long.parseLong(customer.substring(1)) + (long) CUSTOMERS_APART * copy)
                : copy -> customer + " " + copy;
    }
}
