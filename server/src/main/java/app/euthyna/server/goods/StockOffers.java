package app.euthyna.server.goods;

import app.euthyna.core.goods.Reserving;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.AfterCommand;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Jobs;
import app.euthyna.server.platform.LeftWork;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Many;
import com.github.kagkarlsson.scheduler.task.Task;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.annotation.Bean;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Shelves with free stock that others wait for (sections 7 and 14): handed out after the command that freed it and
 * before its answer, from the head of the queue, each order in a transaction of its own under its customer's lock.
 */
@Component
@Order(1)
class StockOffers implements AfterCommand {

    private static final Logger LOG = LoggerFactory.getLogger(StockOffers.class);

    private final ShelfQueries queries;
    private final WaitingLines waiting;
    private final Shelves shelves;
    private final Commands commands;
    private final Locks locks;
    private final ObjectProvider<EffectWriter> writer;
    private final LeftWork<Place> left = new LeftWork<>();

    StockOffers(
            ShelfQueries queries,
            WaitingLines waiting,
            Shelves shelves,
            Commands commands,
            Locks locks,
            ObjectProvider<EffectWriter> writer) {
        this.queries = queries;
        this.waiting = waiting;
        this.shelves = shelves;
        this.commands = commands;
        this.locks = locks;
        this.writer = writer;
    }

    /** Puts a shelf into the queue, with the command's transaction. */
    void queue(CommandContext context, Place place) {
        var row = new OfferQueueEntity();
        row.itemId = place.item();
        row.siteId = place.site();
        row.queuedAt = Instant.now();
        row.queuedBy = context.person().username();
        queries.session().insert(row);
        left.addAfterCommit(place);
    }

    @Override
    public boolean workOff() {
        return left.workOff(this::handOut);
    }

    /** Takes up what was left behind. */
    @Bean
    Task<?> leftStockOffersJob() {
        return Jobs.every("left-stock-offers", Duration.ofSeconds(5), Duration.ofSeconds(10), this::takeUp);
    }

    void takeUp() {
        queries.leftBehind(LeftWork.leftBehindBefore()).forEach(row -> left.add(new Place(row.itemId(), row.siteId())));
        commands.workOff();
    }

    private record Entry(long id, String by) {}

    private void handOut(Place place) {
        var entries = queries.queued(place.item(), place.site()).stream()
                .map(row -> new Entry(row.id(), row.queuedBy()))
                .toList();
        if (entries.isEmpty()) {
            return;
        }
        var last = entries.get(entries.size() - 1);
        var context = commands.as(new Person(last.by(), Role.WAREHOUSE));
        try {
            while (waiting.isFree(place)) {
                var head = waiting.head(place);
                if (head.isEmpty()) {
                    break;
                }
                commands.inTransaction(() -> {
                    locks.customers(List.of(head.get(0).customer()));
                    locks.orders(List.of(head.get(0).claim().orderLine().number()));
                    var shelf = shelves.lock(place);
                    var theirs = waiting.ofLocked(waiting.head(place));
                    writer.getObject().write(context, Reserving.offer(shelf, theirs));
                    return null;
                });
            }
            queries.removeQueued(Many.ids(entries.stream().map(Entry::id).toList()));
        } catch (RuntimeException failure) {
            LOG.error("Free stock of {} could not be handed out; it stays in the queue.", place, failure);
        }
    }
}
