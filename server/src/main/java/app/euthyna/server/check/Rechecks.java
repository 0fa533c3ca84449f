package app.euthyna.server.check;

import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.AfterCommand;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.LeftWork;
import app.euthyna.server.platform.Locks;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Customers whose orders have to be looked at again because something around them changed (section 14): a queue, worked
 * off after the command that changed it and before its answer, each order in a transaction of its own under its
 * customer's lock, the oldest first, so that each counts those let go before it. What fails stays in the queue, is told
 * and tried again; what a server leaves behind another takes up.
 */
@Component
@Order(2)
class Rechecks implements AfterCommand {

    private static final Logger LOG = LoggerFactory.getLogger(Rechecks.class);

    private final JdbcClient jdbc;
    private final Checking checking;
    private final Commands commands;
    private final TransactionTemplate transactions;
    private final Locks locks;
    private final ObjectProvider<EffectWriter> writer;
    private final ObjectProvider<OrderService> orders;
    private final CompanyClock clock;
    private final LeftWork<Long> left = new LeftWork<>();

    Rechecks(
            JdbcClient jdbc,
            Checking checking,
            Commands commands,
            TransactionTemplate transactions,
            Locks locks,
            ObjectProvider<EffectWriter> writer,
            ObjectProvider<OrderService> orders,
            CompanyClock clock) {
        this.jdbc = jdbc;
        this.checking = checking;
        this.commands = commands;
        this.transactions = transactions;
        this.locks = locks;
        this.writer = writer;
        this.orders = orders;
        this.clock = clock;
    }

    /** Puts a customer into the queue, with the command's transaction. */
    void queue(CommandContext context, long customer, Occasion occasion) {
        jdbc.sql("insert into recheck_queue (customer_id, occasion, queued_at, queued_by) values (?, ?, ?, ?)")
                .params(
                        customer,
                        occasion.name(),
                        Timestamp.from(Instant.now()),
                        context.person().username())
                .update();
        left.addAfterCommit(customer);
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
    @Scheduled(initialDelay = 5_000, fixedDelay = 10_000)
    void takeUp() {
        jdbc.sql("select distinct customer_id from recheck_queue where queued_at < ? order by customer_id")
                .param(Timestamp.from(LeftWork.leftBehindBefore()))
                .query(Long.class)
                .list()
                .forEach(left::add);
        commands.workOff();
    }

    private record Entry(long id, String occasion, String by) {}

    private void customer(long customer) {
        var entries = jdbc.sql("select id, occasion, queued_by from recheck_queue where customer_id = ? order by id")
                .param(customer)
                .query((r, n) -> new Entry(r.getLong(1), r.getString(2), r.getString(3)))
                .list();
        var by = entries.isEmpty() ? "clock" : entries.get(entries.size() - 1).by();
        var context = new CommandContext(new Person(by, Role.CLERK), clock.today(), "");
        var whole = entries.stream().anyMatch(e -> e.occasion().equals(Occasion.CUSTOMER_CHANGED.name()));
        var failed = false;
        for (var order : waiting(customer)) {
            failed |= !again(context, customer, order, Occasion.WORLD_CHANGED);
        }
        // what may go now has gone first; then what was cleared is looked at, the newest first: it was the last to be
        // lent to
        if (whole) {
            for (var order : cleared(customer)) {
                failed |= !again(context, customer, order, Occasion.CUSTOMER_CHANGED);
            }
        }
        if (!failed && !entries.isEmpty()) {
            jdbc.sql("delete from recheck_queue where customer_id = ? and id <= ?")
                    .params(customer, entries.get(entries.size() - 1).id())
                    .update();
        }
    }

    /** Orders of a customer that are held, await approval, or wait in a list with a caution: the oldest first. */
    private List<String> waiting(long customer) {
        return jdbc.sql("""
            select o.number from open_order x join sales_order o on o.id = x.order_id
            where x.customer_id = ? and x.reviewable = true order by o.id\
            """).param(customer).query(String.class).list();
    }

    private List<String> cleared(long customer) {
        return jdbc.sql("""
            select o.number from open_order x join sales_order o on o.id = x.order_id
            where x.customer_id = ? and x.cleared = true order by o.id desc\
            """).param(customer).query(String.class).list();
    }

    private boolean again(CommandContext context, long customer, String order, Occasion occasion) {
        try {
            commands.retrying(() -> transactions.execute(status -> {
                locks.customers(List.of(customer));
                look(context, order, occasion);
                return null;
            }));
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
            orders.getObject().moveVersion(order);
        }
        return List.of();
    }

    /** What would follow for customers, within a transaction that is taken back: the effects on their orders. */
    List<Effect> simulated(CommandContext context, Collection<Long> customers) {
        var all = new ArrayList<Effect>();
        customers.stream()
                .sorted()
                .distinct()
                .forEach(customer ->
                        waiting(customer).forEach(order -> all.addAll(look(context, order, Occasion.WORLD_CHANGED))));
        return all;
    }
}
