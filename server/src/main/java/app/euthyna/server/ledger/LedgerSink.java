package app.euthyna.server.ledger;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.ledger.ManualPosting;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Figures;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.List;
import java.util.Set;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Posts every effect that posts. The head of the ledger is locked last of all, so entries follow one another without a
 * gap.
 */
@Component
@Order(50)
public class LedgerSink implements EffectSink {

    private final MasterData masterData;
    private final Accounts accounts;
    private final LedgerReader reader;
    private final PendingPostings pending;
    private final JournalWriter journal;

    LedgerSink(
            MasterData masterData,
            Accounts accounts,
            LedgerReader reader,
            PendingPostings pending,
            JournalWriter journal) {
        this.journal = journal;
        this.pending = pending;
        this.accounts = accounts;
        this.reader = reader;
        this.masterData = masterData;
    }

    /** What is to be posted is noted: the head of the ledger is locked when nothing else will be. */
    @Override
    public void store(CommandContext context, Effect effect) {
        pending.add(() -> postingOf(context, effect));
    }

    private void postingOf(CommandContext context, Effect effect) {
        Postings.mirrored(effect).ifPresent(mirrored -> mirror(context, mirrored));
        if (effect instanceof Effect.ManualEntryPosted manual) {
            var roles = accounts.roles();
            var lines = manual.lines().stream()
                    .map(line ->
                            new EntryLine(ManualPosting.role(roles.get(line.account())), line.account(), line.amount()))
                    .toList();
            journal.post(
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
                journal.post(
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
    private void mirror(CommandContext context, Postings.Mirrored mirrored) {
        var document = mirrored.document();
        var mirrors = reader.mirrors(List.of(document));
        var undone = Set.copyOf(mirrors.values());
        var standing = reader.entries(List.of(document)).stream()
                .filter(entry -> !undone.contains(entry.number()) && !mirrors.containsKey(entry.number()))
                .toList();
        for (var entry : Postings.toMirror(standing, mirrored.event())) {
            var later = context.date().isAfter(entry.date())
                    ? "reverses %s of %s".formatted(entry.number(), Figures.day(entry.date()))
                    : "";
            journal.post(context, number -> entry.mirror(number, context.date()), List.of(), entry.number(), later);
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
