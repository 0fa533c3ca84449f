package app.euthyna.server.ledger;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.platform.Company;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Entries and account names, for whoever explains or proves. */
@Component
public class LedgerReader {

    private final JdbcClient jdbc;
    private final Company company;
    private final PendingPostings pending;

    LedgerReader(JdbcClient jdbc, Company company, PendingPostings pending) {
        this.pending = pending;
        this.jdbc = jdbc;
        this.company = company;
    }

    /** All entries of documents, in the order in which they were posted. */
    public List<Entry> entries(Collection<DocumentRef> documents) {
        pending.post();
        var lines = new LinkedHashMap<Long, List<EntryLine>>();
        var byKind = documents.stream()
                .collect(Collectors.groupingBy(
                        DocumentRef::kind, Collectors.mapping(DocumentRef::number, Collectors.toSet())));
        byKind.forEach((kind, numbers) -> jdbc.sql("""
            select e.id, l.role, l.account, l.amount from journal_entry e join journal_line l on l.entry_id = e.id
            where e.document_kind = :kind and e.document_number in (:numbers) order by e.id, l.line_no\
            """)
                .param("kind", kind.name())
                .param("numbers", numbers)
                .query((r, n) -> lines.computeIfAbsent(r.getLong(1), id -> new ArrayList<>())
                        .add(new EntryLine(
                                AccountRole.valueOf(r.getString(2).toUpperCase(Locale.ROOT)),
                                r.getString(3),
                                company.money(r.getBigDecimal(4)))))
                .list());
        if (lines.isEmpty()) {
            return List.of();
        }
        var found = new ArrayList<Entry>();
        jdbc.sql("select e.id, e.number, e.entry_date, e.event, e.document_kind, e.document_number, c.code from"
                        + " journal_entry e left join customer c on c.id = e.customer_id where e.id in (:ids)"
                        + " order by e.id")
                .param("ids", lines.keySet())
                .query((r, n) -> found.add(new Entry(
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        r.getString(4),
                        new DocumentRef(DocumentKind.valueOf(r.getString(5)), r.getString(6)),
                        r.getString(7) == null ? "" : r.getString(7),
                        lines.get(r.getLong(1)))))
                .list();
        return found;
    }

    /** How many entries were posted. */
    public long lastNumber() {
        pending.post();
        return jdbc.sql("select last_number from ledger_head where id = 1")
                .query(Long.class)
                .single();
    }

    /** Entries posted since, in the order in which they were posted. */
    public List<Entry> entriesAfter(long lastNumber) {
        var documents = jdbc.sql(
                "select distinct e.document_kind, e.document_number from journal_entry e where e.number in (:numbers)");
        var numbers = LongStream.rangeClosed(lastNumber + 1, lastNumber())
                .mapToObj(n -> DocumentKind.ENTRY.prefix() + n)
                .toList();
        if (numbers.isEmpty()) {
            return List.of();
        }
        var of = documents
                .param("numbers", numbers)
                .query((r, n) -> new DocumentRef(DocumentKind.valueOf(r.getString(1)), r.getString(2)))
                .list();
        return entries(of).stream()
                .filter(entry -> numbers.contains(entry.number()))
                .toList();
    }

    /** The entry that each mirroring entry of documents undoes, by number. */
    public Map<String, String> mirrors(Collection<DocumentRef> documents) {
        pending.post();
        var mirrors = new HashMap<String, String>();
        documents.stream()
                .collect(Collectors.groupingBy(
                        DocumentRef::kind, Collectors.mapping(DocumentRef::number, Collectors.toSet())))
                .forEach((kind, numbers) -> jdbc.sql("""
                    select number, mirrors from journal_entry
                    where document_kind = :kind and document_number in (:numbers) and mirrors is not null\
                    """)
                        .param("kind", kind.name())
                        .param("numbers", numbers)
                        .query((r, n) -> mirrors.put(r.getString(1), r.getString(2)))
                        .list());
        return mirrors;
    }

    /** The day on which each entry was written, by number. */
    public Map<String, LocalDate> written(Collection<String> entries) {
        var written = new HashMap<String, LocalDate>();
        if (!entries.isEmpty()) {
            jdbc.sql("select number, written_on from journal_entry where number in (:numbers)")
                    .param("numbers", entries)
                    .query((r, n) -> written.put(r.getString(1), r.getObject(2, LocalDate.class)))
                    .list();
        }
        return written;
    }

    public Map<String, String> accountNames() {
        return jdbc
                .sql("select code, name from account")
                .query((r, n) -> Map.entry(r.getString(1), r.getString(2)))
                .list()
                .stream()
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }
}
