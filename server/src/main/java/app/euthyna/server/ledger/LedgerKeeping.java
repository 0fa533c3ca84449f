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
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.RefusedException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.jdbc.core.simple.JdbcClient;
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

    private final JdbcClient jdbc;
    private final Accounts accounts;
    private final Numbers numbers;
    private final Company company;
    private final EffectWriter writer;
    private final Clock clock;
    private final ObjectProvider<PeriodOpened> opened;

    LedgerKeeping(
            JdbcClient jdbc,
            Accounts accounts,
            Numbers numbers,
            Company company,
            EffectWriter writer,
            Clock clock,
            ObjectProvider<PeriodOpened> opened) {
        this.opened = opened;
        this.jdbc = jdbc;
        this.accounts = accounts;
        this.numbers = numbers;
        this.company = company;
        this.writer = writer;
        this.clock = clock;
    }

    /**
     * No entry is on its way while a period is closed or opened: the head of the ledger is what entries wait for, too.
     */
    private void lockHead() {
        jdbc.sql("select last_number from ledger_head where id = 1 for update")
                .query(Long.class)
                .single();
    }

    /** Closes the books through a day. */
    public void close(CommandContext context, LocalDate through) {
        lockHead();
        RefusedException.where(Periods.closing(through, context.today(), accounts.closedThrough(), context.person()));
        jdbc.sql("insert into period_closing (through, closed_at, closed_by, remark) values (?, ?, ?, ?)")
                .params(
                        through,
                        Timestamp.from(clock.instant()),
                        context.person().username(),
                        context.reason())
                .update();
    }

    /** Opens the period again that was closed last. */
    public void reopen(CommandContext context) {
        lockHead();
        var through = accounts.closedThrough();
        RefusedException.where(Periods.reopening(through, context.person(), context.reason()));
        jdbc.sql("update period_closing set reopened_at = ?, reopened_by = ?, reopening = ? where reopened_at"
                        + " is null and through = ?")
                .params(
                        Timestamp.from(clock.instant()),
                        context.person().username(),
                        context.reason(),
                        through.orElseThrow())
                .update();
        opened.orderedStream().forEach(one -> one.periodOpened(context));
    }

    /** Who goes on when a period is open again. */
    public interface PeriodOpened {
        void periodOpened(CommandContext context);
    }

    /** Posts a manual entry; answers the number of its document. */
    public String post(CommandContext context, List<ManualLine> lines) {
        Effect.ManualEntryPosted posted = RefusedException.orThrow(ManualPosting.post(
                numbers.next(DocumentKind.MANUAL_ENTRY),
                lines,
                accounts.roles(),
                context.person(),
                context.reason(),
                company.currency()));
        writer.write(context, List.of(posted));
        return posted.number();
    }

    /** Adds an account. */
    public void addAccount(CommandContext context, String code, String name) {
        requireLead(context, "keep accounts");
        if (jdbc.sql("select count(*) from account where code = ?")
                        .param(code)
                        .query(Long.class)
                        .single()
                > 0) {
            throw new RefusedException(CommonRefusal.Incomplete.of("code", "an unused account code"));
        }
        jdbc.sql("insert into account (code, name) values (?, ?)")
                .params(code, name)
                .update();
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
        if (!row.account().isEmpty()
                && jdbc.sql("select count(*) from account where code = ?")
                                .param(row.account())
                                .query(Long.class)
                                .single()
                        == 0) {
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
        jdbc.sql("delete from posting_rule where role = ? and customer_class = ? and item_class = ? and site ="
                        + " ? and vat = ?")
                .params(row.role().code(), row.customerClass(), row.itemClass(), row.site(), row.vat())
                .update();
        if (!row.account().isEmpty()) {
            jdbc.sql("insert into posting_rule (role, customer_class, item_class, site, vat, account) values"
                            + " (?, ?, ?, ?, ?, ?)")
                    .params(
                            row.role().code(),
                            row.customerClass(),
                            row.itemClass(),
                            row.site(),
                            row.vat(),
                            row.account())
                    .update();
        }
        var known = Set.copyOf(map.ambiguities());
        RefusedException.where(accounts.map().ambiguities().stream()
                .filter(refusal -> !known.contains(refusal))
                .toList());
        var sentence = row.account().isEmpty()
                ? "%s: no longer account %s"
                        .formatted(row.words(), before.orElseThrow().account())
                : before.map(was -> "%s: account %s instead of %s".formatted(row.words(), row.account(), was.account()))
                        .orElse("%s: account %s".formatted(row.words(), row.account()));
        jdbc.sql("insert into posting_rule_change (changed_at, changed_by, sentence, reason) values (?, ?, ?, ?)")
                .params(Timestamp.from(clock.instant()), context.person().username(), sentence, context.reason())
                .update();
    }

    private static void requireLead(CommandContext context, String what) {
        if (context.person().role() != Role.LEAD) {
            throw new RefusedException(
                    new CommonRefusal.NotAuthorised(what, context.person().role(), List.of(Role.LEAD)));
        }
    }
}
