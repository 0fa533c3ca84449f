package app.euthyna.server.ledger;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.ledger.AccountRole;
import app.euthyna.core.ledger.Entry;
import app.euthyna.core.ledger.PostingMap;
import app.euthyna.core.ledger.Postings;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.RefusedException;
import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.Locale;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Posts every effect that posts. The head of the ledger is locked last of all, so entries follow one another without a gap. */
@Component
@Order(50)
public class LedgerSink implements EffectSink {

    private final EntityManager entities;
    private final JdbcClient jdbc;
    private final MasterData masterData;
    private final Ids ids;
    private final Clock clock;

    LedgerSink(EntityManager entities, JdbcClient jdbc, MasterData masterData, Ids ids, Clock clock) {
        this.entities = entities;
        this.jdbc = jdbc;
        this.masterData = masterData;
        this.ids = ids;
        this.clock = clock;
    }

    @Override
    public void store(CommandContext context, Effect effect) {
        postings().of(effect).ifPresent(proposal -> {
            var lines = RefusedException.unless(map().map(proposal.posting()));
            var head = jdbc.sql("select last_number, last_hash from ledger_head where id = 1 for update").query(Head.class).single();
            var number = head.lastNumber() + 1;
            var entry = new Entry(DocumentKind.ENTRY.prefix() + number, context.date(), proposal.posting().event(), proposal.document(),
                    proposal.customer(), lines);
            var hash = entry.hash(head.lastHash());
            persist(context, entry, head.lastHash(), hash);
            jdbc.sql("update ledger_head set last_number = ?, last_hash = ? where id = 1").params(number, hash).update();
        });
    }

    record Head(long lastNumber, String lastHash) {
    }

    private void persist(CommandContext context, Entry entry, String previous, String hash) {
        var stored = new JournalEntryEntity();
        stored.number = entry.number();
        stored.entryDate = entry.date();
        stored.event = entry.event();
        stored.documentKind = entry.document().kind().name();
        stored.documentNumber = entry.document().number();
        stored.customerId = entry.customer().isEmpty() ? null : ids.customer(entry.customer());
        stored.postedAt = clock.instant();
        stored.postedBy = context.person().username();
        stored.previousHash = previous;
        stored.hash = hash;
        for (var line : entry.lines()) {
            stored.lines.add(new JournalEntryEntity.Line(stored.lines.size() + 1, line.role().code(), line.account(),
                    line.amount().amount(), entry.date()));
        }
        entities.persist(stored);
    }

    /** What effects post, with the classes of this company's items and customers. */
    public Postings postings() {
        return new Postings(item -> masterData.item(item).itemClass(), customer -> masterData.customer(customer).customerClass());
    }

    /** The posting map as it stands. */
    public PostingMap map() {
        return new PostingMap(jdbc.sql("select role, customer_class, item_class, site, vat, account from posting_rule order by id")
                .query((r, n) -> new PostingMap.Row(AccountRole.valueOf(r.getString(1).toUpperCase(Locale.ROOT)), r.getString(2),
                        r.getString(3), r.getString(4), r.getString(5), r.getString(6))).list());
    }
}
