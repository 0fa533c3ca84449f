package app.euthyna.server.proof;

import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.EntryLine;
import app.euthyna.core.ledger.Sides;
import app.euthyna.core.proof.Statement.Failure;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.server.ledger.JournalDayEntity;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Recomputes the hash of every entry from what is stored of it and the hash before, line by line as the journal is
 * streamed.
 */
final class HashChain {

    private static final int NAMED = 20;

    private final Currency currency;
    private final List<Failure> failures = new ArrayList<>();
    private String previous = Entry.GENESIS;
    private Header open;
    private List<EntryLine> lines = new ArrayList<>();
    private long entries;
    /** What the entries of each day moved, as it is kept beside them. */
    private final Map<JournalDayEntity.Key, Sides> days = new HashMap<>();

    HashChain(Currency currency) {
        this.currency = currency;
    }

    private record Header(
            String number,
            LocalDate date,
            String event,
            DocumentRef document,
            String customer,
            String previousHash,
            String hash) {}

    /** As it is kept. */
    record KeptDay(
            LocalDate date,
            String role,
            String kind,
            String event,
            String account,
            BigDecimal debit,
            BigDecimal credit) {}

    void line(
            String number,
            LocalDate date,
            String event,
            String kind,
            String document,
            String customer,
            String previousHash,
            String hash,
            String role,
            String account,
            BigDecimal amount) {
        if (open == null || !open.number().equals(number)) {
            close();
            open = new Header(
                    number,
                    date,
                    event,
                    new DocumentRef(DocumentKind.valueOf(kind), document),
                    customer,
                    previousHash,
                    hash);
        }
        days.merge(new JournalDayEntity.Key(role, date, kind, event, account), Sides.of(amount), Sides::plus);
        lines.add(new EntryLine(
                AccountRole.valueOf(role.toUpperCase(Locale.ROOT)), account, new Money(amount, currency)));
    }

    private void close() {
        if (open == null) {
            return;
        }
        entries++;
        var whole = false;
        try {
            whole = open.previousHash().equals(previous)
                    && new Entry(open.number(), open.date(), open.event(), open.document(), open.customer(), lines)
                            .hash(previous)
                            .equals(open.hash());
        } catch (IllegalArgumentException outOfBalance) {
            // it was changed so that it can't even be an entry any more
        }
        if (!whole && failures.size() < NAMED) {
            failures.add(new Failure(
                    open.number(),
                    BigDecimal.ONE,
                    BigDecimal.ZERO,
                    "Entry %s is not what was posted: its hash does not match.".formatted(open.number())));
        }
        previous = open.hash();
        lines = new ArrayList<>();
        open = null;
    }

    /** The last entry's hash is the one that the head of the ledger knows, and days are what their entries moved. */
    void end(String head, List<KeptDay> kept) {
        close();
        if (!previous.equals(head)) {
            failures.add(new Failure(
                    "",
                    BigDecimal.ONE,
                    BigDecimal.ZERO,
                    "The journal does not end with the last posted entry: entries are missing."));
        }
        kept.forEach(day -> {
            var of = new JournalDayEntity.Key(day.role(), day.date(), day.kind(), day.event(), day.account());
            var moved = Optional.ofNullable(days.remove(of)).orElse(Sides.NONE);
            differs(of, moved, new Sides(day.debit(), day.credit()));
        });
        days.forEach((of, moved) -> differs(of, moved, Sides.NONE));
    }

    private void differs(JournalDayEntity.Key of, Sides moved, Sides kept) {
        if (!moved.agreesWith(kept) && failures.size() < NAMED) {
            var should = moved.balance();
            var says = kept.balance();
            failures.add(new Failure(
                    of.account(),
                    should,
                    says,
                    "Entries of %s moved %s on account %s (%s, %s); the sum that is kept of that day says %s."
                            .formatted(
                                    of.entryDate(),
                                    Figures.plain(should),
                                    of.account(),
                                    of.role().replace('_', ' '),
                                    of.event(),
                                    Figures.plain(says))));
        }
    }

    long entries() {
        return entries;
    }

    List<Failure> failures() {
        return failures;
    }
}
