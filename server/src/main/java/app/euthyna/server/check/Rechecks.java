package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.order.OrderDecisions;
import app.euthyna.server.platform.AfterCommand;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Jobs;
import app.euthyna.server.platform.LeftWork;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.WorldChanged;
import com.github.kagkarlsson.scheduler.task.Task;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.annotation.Bean;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/**
 * Customers whose orders have to be looked at again because something around them changed (section 14): a queue, worked
 * off after the command that changed it and before its answer, under the customer's lock, the oldest first, so that
 * each counts those let go before it. An order that goes another way ends its transaction; one that fails keeps none of
 * the others from their turn, stays in the queue, is told and tried again. What a server leaves behind another takes
 * up.
 */
@Component
@Order(2)
class Rechecks implements AfterCommand {

    private static final Logger LOG = LoggerFactory.getLogger(Rechecks.class);

    /** So many orders are looked at in one transaction, while none of them goes another way. */
    private static final int TOGETHER = 50;

    private final RecheckQueries queries;
    private final Checking checking;
    private final Commands commands;
    private final Locks locks;
    private final ObjectProvider<EffectWriter> writer;
    private final ObjectProvider<OrderDecisions> decisions;
    private final LeftWork<Long> left = new LeftWork<>();

    Rechecks(
            RecheckQueries queries,
            Checking checking,
            Commands commands,
            Locks locks,
            ObjectProvider<EffectWriter> writer,
            ObjectProvider<OrderDecisions> decisions) {
        this.queries = queries;
        this.checking = checking;
        this.commands = commands;
        this.locks = locks;
        this.writer = writer;
        this.decisions = decisions;
    }

    /** Which orders of a customer are to be looked at again: the later, the more. */
    enum Reach {
        /** What waits and draws on the same as a new order. */
        BESIDE_A_NEW_ORDER,
        /** Whatever is held, awaits approval, or waits in a list with a caution. */
        WAITING,
        /** What was cleared and has not left, too. */
        ALL
    }

    /** Puts a customer into the queue, with the command's transaction. */
    void queue(CommandContext context, long customer, Reach reach) {
        var row = new RecheckQueueEntity();
        row.customerId = customer;
        row.reach = reach.name();
        row.queuedAt = Instant.now();
        row.queuedBy = context.person().username();
        queries.session().insert(row);
        left.addAfterCommit(customer);
    }

    /** Somebody changed what checks look at. */
    @EventListener
    void changed(WorldChanged around) {
        around.customers().stream()
                .sorted()
                .distinct()
                .forEach(customer -> queue(around.context(), customer, Reach.WAITING));
    }

    /** Puts the customers of orders that wait and want an item into the queue. */
    void queueThoseWhoWant(CommandContext context, String item) {
        whoWant(item).forEach(customer -> queue(context, customer, Reach.WAITING));
    }

    /** The customers of orders that wait for something and want an item. */
    List<Long> whoWant(String item) {
        return queries.whoWant(item);
    }

    /** Has a customer looked at although its command was refused: what it was refused for is to be seen. */
    void soon(long customer) {
        left.add(customer);
    }

    @Override
    public boolean workOff() {
        return left.workOff(this::customer);
    }

    /** Takes up what was left behind. */
    @Bean
    Task<?> leftRechecksJob() {
        return Jobs.every("left-rechecks", Duration.ofSeconds(5), Duration.ofSeconds(10), this::takeUp);
    }

    void takeUp() {
        queries.leftBehind(LeftWork.leftBehindBefore()).forEach(left::add);
        commands.workOff();
    }

    private record Entry(long id, Reach reach, String by) {}

    private void customer(long customer) {
        var entries = queries.queued(customer).stream()
                .map(row -> new Entry(row.id(), Reach.valueOf(row.reach()), row.queuedBy()))
                .toList();
        var by = entries.isEmpty() ? "clock" : entries.get(entries.size() - 1).by();
        var context = commands.as(new Person(by, Role.CLERK));
        var reach = entries.stream()
                .map(Entry::reach)
                .max(Comparator.naturalOrder())
                .orElse(Reach.WAITING);
        var failed = allAgain(context, customer, waiting(customer, reach), Occasion.WORLD_CHANGED);
        // what may go now has gone first; then what was cleared is looked at, the newest first: it was the last to be
        // lent to
        if (reach == Reach.ALL) {
            failed |= allAgain(context, customer, cleared(customer), Occasion.CUSTOMER_CHANGED);
        }
        if (!failed && !entries.isEmpty()) {
            queries.removeQueued(Many.ids(entries.stream().map(Entry::id).toList()));
        }
    }

    /** Orders of a customer that are held, await approval, or wait in a list with a caution: the oldest first. */
    private List<String> waiting(long customer, Reach reach) {
        return reach == Reach.BESIDE_A_NEW_ORDER
                ? queries.waitingBeside(
                        customer,
                        Many.names(Checks.SHARED.stream().map(Check::code).toList()))
                : queries.waiting(customer);
    }

    private List<String> cleared(long customer) {
        return queries.cleared(customer);
    }

    /** Looks at orders in their sequence; tells whether one of them failed. */
    private boolean allAgain(CommandContext context, long customer, List<String> all, Occasion occasion) {
        var failed = false;
        for (int done = 0; done < all.size(); ) {
            var next = all.subList(done, Math.min(done + TOGETHER, all.size()));
            try {
                done += together(context, customer, next, occasion);
            } catch (RuntimeException one) {
                LOG.info("{} orders are checked again one by one, since one of them failed.", next.size(), one);
                for (var order : next) {
                    failed |= !alone(context, customer, order, occasion);
                }
                done += next.size();
            }
        }
        return failed;
    }

    /**
     * Looks at orders in one transaction, up to and with the first that goes another way: it is the only one of them
     * that takes more locks than its customer's, and those behind it count it.
     */
    private int together(CommandContext context, long customer, List<String> several, Occasion occasion) {
        return commands.inTransaction(() -> {
            locks.customers(List.of(customer));
            checking.together(several);
            for (int at = 0; at < several.size(); at++) {
                if (!look(context, several.get(at), occasion).isEmpty()) {
                    return at + 1;
                }
            }
            return several.size();
        });
    }

    private boolean alone(CommandContext context, long customer, String order, Occasion occasion) {
        try {
            together(context, customer, List.of(order), occasion);
            return true;
        } catch (RuntimeException failure) {
            LOG.error("Order {} could not be checked again; it stays in the queue.", order, failure);
            return false;
        }
    }

    private List<Effect> look(CommandContext context, String order, Occasion occasion) {
        var outcome = checking.check(context, order, occasion, Optional.empty());
        if (outcome.change().isPresent()) {
            return writer.getObject().write(context, List.of(outcome.change().get()));
        }
        if (outcome.worse()) {
            decisions.getObject().moveVersion(order);
        }
        return List.of();
    }

    /** What would follow for customers, within a transaction that is taken back: the effects on their orders. */
    List<Effect> simulated(CommandContext context, Collection<Long> customers) {
        var all = new ArrayList<Effect>();
        customers.stream()
                .sorted()
                .distinct()
                .forEach(customer -> waiting(customer, Reach.WAITING)
                        .forEach(order -> all.addAll(look(context, order, Occasion.WORLD_CHANGED))));
        return all;
    }
}
