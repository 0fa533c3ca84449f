package app.euthyna.server.ledger;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.ledger.ManualPosting;
import app.euthyna.core.ledger.Periods;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.function.Function;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Posts every effect that posts. The head of the ledger is locked last of all, so entries follow one another without a
 * gap.
 */
@Component
@Order(50)
public class LedgerSink implements EffectSink {

    private final StatelessSession session;
    private final MasterData masterData;
    private final Ids ids;
    private final Clock clock;
    private final Accounts accounts;
    private final LedgerReader reader;
    private final Locks locks;
    private final PendingPostings pending;

    LedgerSink(
            StatelessSession session,
            MasterData masterData,
            Ids ids,
            Clock clock,
            Accounts accounts,
            LedgerReader reader,
            Locks locks,
            PendingPostings pending) {
        this.pending = pending;
        this.session = session;
        this.locks = locks;
        this.accounts = accounts;
        this.reader = reader;
        this.masterData = masterData;
        this.ids = ids;
        this.clock = clock;
    }

    /** What is to be posted is noted: the head of the ledger is locked when nothing else will be. */
    @Override
    public void store(CommandContext context, Effect effect) {
        pending.add(() -> postingOf(context, effect));
    }

    private void postingOf(CommandContext context, Effect effect) {
        Postings.mirrored(effect).ifPresent(document -> mirror(context, document));
        if (effect instanceof Effect.ManualEntryPosted manual) {
            var roles = accounts.roles();
            var lines = manual.lines().stream()
                    .map(line ->
                            new EntryLine(ManualPosting.role(roles.get(line.account())), line.account(), line.amount()))
                    .toList();
            post(
                    context,
                    number -> new Entry(
                            number,
                            context.date(),
                            "manual",
                            new DocumentRef(DocumentKind.MANUAL_ENTRY, manual.number()),
                            "",
                            lines),
                    List.of(),
                    null,
                    context.reason());
        } else {
            postings().of(effect).ifPresent(proposal -> {
                var mapped = RefusedException.orThrow(accounts.map().map(proposal.posting()));
                post(
                        context,
                        number -> new Entry(
                                number,
                                context.date(),
                                proposal.posting().event(),
                                proposal.document(),
                                proposal.customer(),
                                mapped.lines()),
                        mapped.uses(),
                        null,
                        "");
            });
        }
    }

    /** Undoes all entries of a document that are not undone yet, in the order in which they were posted. */
    private void mirror(CommandContext context, DocumentRef document) {
        var undone = new HashSet<>(reader.mirrors(List.of(document)).values());
        var mirrors = reader.mirrors(List.of(document)).keySet();
        for (var entry : reader.entries(List.of(document))) {
            if (!undone.contains(entry.number()) && !mirrors.contains(entry.number())) {
                var later = context.date().isAfter(entry.date())
                        ? "reverses %s of %s".formatted(entry.number(), Figures.day(entry.date()))
                        : "";
                post(context, number -> entry.mirror(number, context.date()), List.of(), entry.number(), later);
            }
        }
    }

    /** The head of the ledger is locked before the period is looked at, as it is by whoever closes one. */
    private void post(
            CommandContext context,
            Function<String, Entry> made,
            List<PostingMap.Use> uses,
            String mirrors,
            String remark) {
        locks.taken(Locks.Rank.LEDGER);
        var head = session.get(LedgerHeadEntity.class, 1, LockMode.PESSIMISTIC_WRITE);
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
                    .map(use ->
                            new Explanation(use.asked(), use.row(), use.amount().amount()))
                    .toList());
            session.insert(row);
        }
    }

    /**
     * How an amount of a line came by its account: what the map could look at, and the row that was the most specific
     * then.
     */
    public record Explanation(String asked, String row, BigDecimal amount) {}

    /** What an effect would post, with the accounts of today. */
    public List<EntryLine> lines(Effect effect) {
        return postings()
                .of(effect)
                .map(proposal -> RefusedException.orThrow(accounts.map().map(proposal.posting()))
                        .lines())
                .orElse(List.of());
    }

    /** What effects post, with the classes of this company's items and customers. */
    private Postings postings() {
        return new Postings(
                item -> masterData.item(item).itemClass(),
                customer -> masterData.customer(customer).customerClass());
    }
}
