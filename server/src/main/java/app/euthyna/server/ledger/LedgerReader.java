package app.euthyna.server.ledger;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Many;
import java.time.LocalDate;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.springframework.stereotype.Component;

/** Entries and account names, for whoever explains or proves. */
@Component
public class LedgerReader {

    private final LedgerQueries queries;
    private final Company company;
    private final PendingPostings pending;

    LedgerReader(LedgerQueries queries, Company company, PendingPostings pending) {
        this.pending = pending;
        this.queries = queries;
        this.company = company;
    }

    /** All entries of documents, in the order in which they were posted. */
    public List<Entry> entries(Collection<DocumentRef> documents) {
        pending.post();
        if (documents.isEmpty()) {
            return List.of();
        }
        var asked = Set.copyOf(documents);
        return queries.entryLines(Many.numbers(documents)).stream()
                .collect(Collectors.groupingBy(LedgerQueries.EntryLineRow::id, LinkedHashMap::new, Collectors.toList()))
                .values()
                .stream()
                .map(this::entry)
                .filter(entry -> asked.contains(entry.document()))
                .toList();
    }

    private Entry entry(List<LedgerQueries.EntryLineRow> lines) {
        var entry = lines.get(0);
        return new Entry(
                entry.number(),
                entry.entryDate(),
                entry.event(),
                new DocumentRef(DocumentKind.valueOf(entry.documentKind()), entry.documentNumber()),
                entry.customer() == null ? "" : entry.customer(),
                lines.stream()
                        .map(line -> new EntryLine(
                                AccountRole.valueOf(line.role().toUpperCase(Locale.ROOT)),
                                line.account(),
                                company.money(line.amount())))
                        .toList());
    }

    /** How many entries were posted. */
    public long lastNumber() {
        pending.post();
        return queries.lastNumber();
    }

    /** Entries posted since, in the order in which they were posted. */
    public List<Entry> entriesAfter(long lastNumber) {
        var numbers = LongStream.rangeClosed(lastNumber + 1, lastNumber())
                .mapToObj(n -> DocumentKind.ENTRY.prefix() + n)
                .toList();
        if (numbers.isEmpty()) {
            return List.of();
        }
        var of = queries.documentsOf(Many.names(numbers)).stream()
                .map(row -> new DocumentRef(DocumentKind.valueOf(row.kind()), row.number()))
                .toList();
        return entries(of).stream()
                .filter(entry -> numbers.contains(entry.number()))
                .toList();
    }

    /** The entry that each mirroring entry of documents undoes, by number. */
    public Map<String, String> mirrors(Collection<DocumentRef> documents) {
        pending.post();
        var asked = Set.copyOf(documents);
        return documents.isEmpty()
                ? Map.of()
                : queries.mirrors(Many.numbers(documents)).stream()
                        .filter(row -> asked.contains(
                                new DocumentRef(DocumentKind.valueOf(row.documentKind()), row.documentNumber())))
                        .collect(Collectors.toMap(LedgerQueries.MirrorRow::number, LedgerQueries.MirrorRow::mirrors));
    }

    /** The day on which each entry was written, by number. */
    public Map<String, LocalDate> written(Collection<String> entries) {
        var written = new HashMap<String, LocalDate>();
        if (!entries.isEmpty()) {
            queries.written(Many.names(entries)).forEach(row -> written.put(row.number(), row.writtenOn()));
        }
        return written;
    }

    public Map<String, String> accountNames() {
        return queries.accountNames().stream()
                .collect(Collectors.toMap(LedgerQueries.NameRow::code, LedgerQueries.NameRow::name));
    }
}
