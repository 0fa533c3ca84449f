package app.euthyna.server.ledger;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.ManualLine;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.ManualPosting;
import app.euthyna.core.ledger.Periods;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.RefusedException;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.hibernate.LockMode;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What the finance lead does to the books themselves: closes periods, posts manually, keeps accounts and the posting
 * map.
 */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class LedgerKeeping {

    private final LedgerQueries queries;
    private final Accounts accounts;
    private final Company company;
    private final EffectWriter writer;
    private final ObjectProvider<PeriodOpened> opened;
    private final PendingPostings pending;

    LedgerKeeping(
            LedgerQueries queries,
            Accounts accounts,
            Company company,
            EffectWriter writer,
            ObjectProvider<PeriodOpened> opened,
            PendingPostings pending) {
        this.pending = pending;
        this.opened = opened;
        this.queries = queries;
        this.accounts = accounts;
        this.company = company;
        this.writer = writer;
    }

    /**
     * No entry is on its way while a period is closed or opened: the head of the ledger is what entries wait for, too.
     */
    private void lockHead() {
        queries.session().get(LedgerHeadEntity.class, 1, LockMode.PESSIMISTIC_WRITE);
    }

    /** Closes the books through a day. */
    public void close(CommandContext context, LocalDate through) {
        lockHead();
        RefusedException.where(Periods.closing(through, context.today(), accounts.closedThrough(), context.person()));
        var row = new PeriodClosingEntity();
        row.through = through;
        row.closedAt = company.now();
        row.closedBy = context.person().username();
        row.remark = context.reason();
        queries.session().insert(row);
    }

    /** Opens the period again that was closed last. */
    public void reopen(CommandContext context) {
        lockHead();
        var through = accounts.closedThrough();
        RefusedException.where(Periods.reopening(through, context.person(), context.reason()));
        queries.reopen(company.now(), context.person().username(), context.reason(), through.orElseThrow());
        opened.orderedStream().forEach(one -> one.periodOpened(context));
    }

    /** Who goes on when a period is open again. */
    public interface PeriodOpened {
        void periodOpened(CommandContext context);
    }

    /** Posts a manual entry; answers the number of its document. */
    public String post(CommandContext context, List<ManualLine> lines) {
        Effect.ManualEntryPosted posted = RefusedException.orThrow(ManualPosting.post(
                writer.number(DocumentKind.MANUAL_ENTRY),
                lines,
                accounts.roles(),
                context.person(),
                context.reason(),
                company.currency()));
        writer.write(context, List.of(posted));
        pending.post();
        return posted.number();
    }

    /** Adds an account. */
    public void addAccount(CommandContext context, String code, String name) {
        requireLead(context, "keep accounts");
        if (queries.accounts(code) > 0) {
            throw new RefusedException(CommonRefusal.Incomplete.of("code", "an unused account code"));
        }
        var row = new AccountEntity();
        row.code = code;
        row.name = name;
        queries.session().insert(row);
    }

    /**
     * Gives a combination its account, in place of the one it has. Entries that are posted keep theirs.
     *
     * @param row an empty account takes the row out
     */
    public void setRow(CommandContext context, PostingMap.Row row) {
        requireLead(context, "change the posting map");
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for the change"));
        }
        if (row.role() == AccountRole.OTHER) {
            throw new RefusedException(CommonRefusal.Incomplete.of("role", "an account role"));
        }
        if (!row.account().isEmpty() && queries.accounts(row.account()) == 0) {
            throw new RefusedException(new CommonRefusal.NotFound("account", row.account()));
        }
        var map = accounts.map();
        var before = map.rows().stream()
                .filter(r -> r.role() == row.role()
                        && r.customerClass().equals(row.customerClass())
                        && r.itemClass().equals(row.itemClass())
                        && r.site().equals(row.site())
                        && r.vat().equals(row.vat()))
                .findFirst();
        if (row.account().isEmpty() && before.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("row of the posting map", row.words()));
        }
        queries.removeRule(row.role().code(), row.customerClass(), row.itemClass(), row.site(), row.vat());
        if (!row.account().isEmpty()) {
            var rule = new PostingRuleEntity();
            rule.role = row.role().code();
            rule.customerClass = row.customerClass();
            rule.itemClass = row.itemClass();
            rule.site = row.site();
            rule.vat = row.vat();
            rule.account = row.account();
            queries.session().insert(rule);
        }
        accounts.changed();
        var known = Set.copyOf(map.ambiguities());
        RefusedException.where(accounts.map().ambiguities().stream()
                .filter(refusal -> !known.contains(refusal))
                .toList());
        var sentence = row.account().isEmpty()
                ? "%s: no longer account %s"
                        .formatted(row.words(), before.orElseThrow().account())
                : before.map(was -> "%s: account %s instead of %s".formatted(row.words(), row.account(), was.account()))
                        .orElse("%s: account %s".formatted(row.words(), row.account()));
        var change = new PostingRuleChangeEntity();
        change.changedAt = company.now();
        change.changedBy = context.person().username();
        change.sentence = sentence;
        change.reason = context.reason();
        queries.session().insert(change);
    }

    private static void requireLead(CommandContext context, String what) {
        if (context.person().role() != Role.LEAD) {
            throw new RefusedException(
                    new CommonRefusal.NotAuthorised(what, context.person().role(), List.of(Role.LEAD)));
        }
    }
}
