package app.euthyna.server.ledger;

import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.Periods;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.core.ledger.Sides;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.TransactionCache;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;
import java.util.function.Function;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Writes entries to the end of the journal, each chained to the one before. */
@Component
class JournalWriter {

    private final StatelessSession session;
    private final Ids ids;
    private final Clock clock;
    private final Accounts accounts;
    private final Locks locks;
    private final LedgerQueries queries;

    /** Once it is locked nobody else posts until the transaction ends. */
    private final TransactionCache<String, LedgerHeadEntity> heads = TransactionCache.toTheEnd();

    JournalWriter(
            StatelessSession session, Ids ids, Clock clock, Accounts accounts, Locks locks, LedgerQueries queries) {
        this.session = session;
        this.ids = ids;
        this.clock = clock;
        this.accounts = accounts;
        this.locks = locks;
        this.queries = queries;
    }

    /** The head of the ledger is locked before the period is looked at, as it is by whoever closes one. */
    void post(
            CommandContext context,
            Function<String, Entry> made,
            List<PostingMap.Use> uses,
            String mirrors,
            String remark) {
        locks.taken(Locks.Rank.LEDGER);
        var head = heads.get("", key -> session.get(LedgerHeadEntity.class, 1, LockMode.PESSIMISTIC_WRITE));
        RefusedException.where(Periods.refusal(context.date(), accounts.closedThrough()));
        var number = head.lastNumber + 1;
        var entry = made.apply(DocumentKind.ENTRY.prefix() + number);
        var hash = entry.hash(head.lastHash);
        persist(context, entry, head.lastHash, hash, uses, mirrors, remark);
        head.lastNumber = number;
        head.lastHash = hash;
        session.update(head);
    }

    private void persist(
            CommandContext context,
            Entry entry,
            String previous,
            String hash,
            List<PostingMap.Use> uses,
            String mirrors,
            String remark) {
        var stored = new JournalEntryEntity();
        stored.number = entry.number();
        stored.entryDate = entry.date();
        stored.event = entry.event();
        stored.documentKind = entry.document().kind().name();
        stored.documentNumber = entry.document().number();
        stored.customerId = entry.customer().isEmpty() ? null : ids.customer(entry.customer());
        stored.postedAt = clock.instant();
        stored.writtenOn = context.today();
        stored.postedBy = context.person().username();
        stored.previousHash = previous;
        stored.hash = hash;
        stored.mirrors = mirrors;
        stored.remark = remark;
        session.insert(stored);
        var rows = new ArrayList<JournalLineEntity>();
        for (int no = 1; no <= entry.lines().size(); no++) {
            var line = entry.lines().get(no - 1);
            var row = new JournalLineEntity();
            row.entryId = stored.id;
            row.lineNo = no;
            row.role = line.role().code();
            row.account = line.account();
            row.amount = line.amount().amount();
            row.entryDate = entry.date();
            row.explained = Records.write(uses.stream()
                    .filter(use -> use.role() == line.role() && use.account().equals(line.account()))
                    .map(use -> new LedgerSink.Explanation(
                            use.asked(), use.row(), use.amount().amount()))
                    .toList());
            rows.add(row);
        }
        session.insertMultiple(rows);
        addToDay(entry);
    }

    /** The head of the ledger is locked: nobody else adds to the day. */
    private void addToDay(Entry entry) {
        record Of(String role, String account) {}
        var moved = new TreeMap<Of, Sides>(Comparator.comparing(Of::role).thenComparing(Of::account));
        entry.lines()
                .forEach(line -> moved.merge(
                        new Of(line.role().code(), line.account()),
                        Sides.of(line.amount().amount()),
                        Sides::plus));
        var kind = entry.document().kind().name();
        moved.forEach((of, sums) -> {
            var known = queries.add(
                    sums.debit(), sums.credit(), of.role(), entry.date(), kind, entry.event(), of.account());
            if (known == 0) {
                var day = new JournalDayEntity();
                day.role = of.role();
                day.entryDate = entry.date();
                day.documentKind = kind;
                day.event = entry.event();
                day.account = of.account();
                day.debit = sums.debit();
                day.credit = sums.credit();
                session.insert(day);
            }
        });
    }
}
