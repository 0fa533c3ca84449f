package app.euthyna.server.check;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Looks at what passes by the clock: licences that lapse, invoices that fall overdue, a register that answers again.
 * Once a day, by one server of however many, customer by customer, each in a transaction of its own; twice a day would
 * do no harm.
 */
@Service
class DailyRecheck {

    private static final Logger LOG = LoggerFactory.getLogger(DailyRecheck.class);
    /** A run that has not ended after so long has lost its server. */
    private static final Duration SILENCE = Duration.ofHours(2);

    private static final Person THE_CLOCK = new Person("clock", Role.ADMIN);

    private final People people;
    private final JdbcClient jdbc;
    private final Commands commands;
    private final TransactionTemplate transactions;
    private final Locks locks;
    private final EffectWriter writer;
    private final CompanyClock clock;

    DailyRecheck(
            JdbcClient jdbc,
            Commands commands,
            TransactionTemplate transactions,
            Locks locks,
            EffectWriter writer,
            CompanyClock clock,
            People people) {
        this.people = people;
        this.jdbc = jdbc;
        this.commands = commands;
        this.transactions = transactions;
        this.locks = locks;
        this.writer = writer;
        this.clock = clock;
    }

    @Scheduled(initialDelay = 60_000, fixedDelay = 600_000)
    void onceADay() {
        // a company that is still being set up is looked at when it stands
        if (!people.isEmpty()) {
            ofToday();
        }
    }

    /** Does today's re-check, unless it is done or another server does it. */
    public void ofToday() {
        var today = clock.today();
        try {
            if (begins(today)) {
                var done = run(today);
                jdbc.sql("update daily_recheck set finished_at = ? where run_on = ?")
                        .params(Timestamp.from(Instant.now()), today)
                        .update();
                LOG.info("{} customers were re-checked for dates that passed.", done);
            }
        } catch (DuplicateKeyException another) {
            LOG.debug("another server does today's re-check");
        }
    }

    /** A day that was begun and not ended within a while is begun again: its server is gone. */
    private boolean begins(LocalDate day) {
        var now = Instant.now();
        var known = jdbc.sql("select count(*) from daily_recheck where run_on = ?")
                        .param(day)
                        .query(Long.class)
                        .single()
                > 0;
        return known
                ? jdbc.sql("update daily_recheck set started_at = ? where run_on = ? and finished_at is null"
                                        + " and started_at < ?")
                                .params(Timestamp.from(now), day, Timestamp.from(now.minus(SILENCE)))
                                .update()
                        > 0
                : jdbc.sql("insert into daily_recheck (run_on, started_at) values (?, ?)")
                                .params(day, Timestamp.from(now))
                                .update()
                        > 0;
    }

    /** Has everything that could have changed by a day looked at again; answers how many customers that concerned. */
    int run(LocalDate on) {
        var customers = jdbc.sql("""
            select distinct c.code from open_order x join sales_order o on o.id = x.order_id
            join customer c on c.id = x.customer_id
            where o.state = 'HELD' or x.to_ship = true and (exists (select 1 from invoice i
            where i.customer_id = c.id and i.open_amount > 0 and i.due_on < ?)
                or exists (select 1 from sales_order_line l join item i on i.code = l.item_code
                where l.order_id = x.order_id and i.regulated <> ''))
            order by c.code\
            """).param(on).query(String.class).list();
        customers.forEach(customer -> again(new CommandContext(THE_CLOCK, on, ""), customer));
        return customers.size();
    }

    /** Has the held orders looked at again, as after a change of the rules; cleared ones stay. */
    int held(LocalDate on) {
        var customers = jdbc.sql(
                        "select distinct c.code from sales_order o join customer c on c.id = o.customer_id where"
                                + " o.state = 'HELD' order by c.code")
                .query(String.class)
                .list();
        customers.forEach(customer -> again(new CommandContext(THE_CLOCK, on, ""), customer));
        return customers.size();
    }

    /** What fails for one customer is told and does not keep the others from their turn. */
    private void again(CommandContext context, String customer) {
        try {
            commands.retrying(() -> transactions.execute(status -> {
                locks.customer(customer);
                writer.write(context, List.of(new Effect.CustomerChanged(customer)));
                return null;
            }));
        } catch (RuntimeException failed) {
            LOG.error("The orders of customer {} could not be re-checked.", customer, failed);
        }
    }
}
