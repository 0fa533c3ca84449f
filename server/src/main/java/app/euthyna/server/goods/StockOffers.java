package app.euthyna.server.goods;

import app.euthyna.core.goods.Reserving;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.AfterCommand;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.LeftWork;
import app.euthyna.server.platform.Locks;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Shelves with free stock that others wait for (sections 7 and 14): handed out after the command that freed it and
 * before its answer, from the head of the queue, each order in a transaction of its own under its customer's lock.
 */
@Component
@Order(1)
class StockOffers implements AfterCommand {

    private static final Logger LOG = LoggerFactory.getLogger(StockOffers.class);

    private final JdbcClient jdbc;
    private final WaitingLines waiting;
    private final Shelves shelves;
    private final Commands commands;
    private final TransactionTemplate transactions;
    private final Locks locks;
    private final ObjectProvider<EffectWriter> writer;
    private final CompanyClock clock;
    private final LeftWork<Place> left = new LeftWork<>();

    StockOffers(
            JdbcClient jdbc,
            WaitingLines waiting,
            Shelves shelves,
            Commands commands,
            TransactionTemplate transactions,
            Locks locks,
            ObjectProvider<EffectWriter> writer,
            CompanyClock clock) {
        this.jdbc = jdbc;
        this.waiting = waiting;
        this.shelves = shelves;
        this.commands = commands;
        this.transactions = transactions;
        this.locks = locks;
        this.writer = writer;
        this.clock = clock;
    }

    /** Puts a shelf into the queue, with the command's transaction. */
    void queue(CommandContext context, Place place) {
        jdbc.sql("insert into offer_queue (item_id, site_id, queued_at, queued_by) values (?, ?, ?, ?)")
                .params(
                        place.item(),
                        place.site(),
                        Timestamp.from(Instant.now()),
                        context.person().username())
                .update();
        left.addAfterCommit(place);
    }

    @Override
    public boolean workOff() {
        return left.workOff(this::handOut);
    }

    /** Takes up what was left behind. */
    @Scheduled(initialDelay = 5_000, fixedDelay = 10_000)
    void takeUp() {
        jdbc.sql("select distinct item_id, site_id from offer_queue where queued_at < ?")
                .param(Timestamp.from(LeftWork.leftBehindBefore()))
                .query((r, n) -> new Place(r.getLong(1), r.getLong(2)))
                .list()
                .forEach(left::add);
        commands.workOff();
    }

    private record Entry(long id, String by) {}

    private void handOut(Place place) {
        var entries = jdbc.sql("select id, queued_by from offer_queue where item_id = ? and site_id = ? order by id")
                .params(place.item(), place.site())
                .query((r, n) -> new Entry(r.getLong(1), r.getString(2)))
                .list();
        if (entries.isEmpty()) {
            return;
        }
        var last = entries.get(entries.size() - 1);
        var context = new CommandContext(new Person(last.by(), Role.WAREHOUSE), clock.today(), "");
        try {
            while (waiting.isFree(place)) {
                var head = waiting.head(place);
                if (head.isEmpty()) {
                    break;
                }
                commands.retrying(() -> transactions.execute(status -> {
                    locks.customers(List.of(head.get(0).customer()));
                    locks.orders(List.of(head.get(0).claim().orderLine().number()));
                    var shelf = shelves.lock(place);
                    var theirs = waiting.ofLocked(waiting.head(place));
                    writer.getObject().write(context, Reserving.offer(shelf, theirs));
                    return null;
                }));
            }
            jdbc.sql("delete from offer_queue where item_id = ? and site_id = ? and id <= ?")
                    .params(place.item(), place.site(), last.id())
                    .update();
        } catch (RuntimeException failure) {
            LOG.error("Free stock of {} could not be handed out; it stays in the queue.", place, failure);
        }
    }
}
