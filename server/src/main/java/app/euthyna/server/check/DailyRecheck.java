package app.euthyna.server.check;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Jobs;
import app.euthyna.server.platform.Locks;
import com.github.kagkarlsson.scheduler.task.Task;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;

/**
 * Looks at what passes by the clock: licences that lapse, invoices that fall overdue, a register that answers again.
 * Once a day, by one server of however many, customer by customer, each in a transaction of its own; twice a day would
 * do no harm.
 */
@Service
public class DailyRecheck {

    private static final Logger LOG = LoggerFactory.getLogger(DailyRecheck.class);

    private static final Person THE_CLOCK = new Person("clock", Role.ADMIN);

    private final People people;
    private final RecheckQueries queries;
    private final Commands commands;
    private final Locks locks;
    private final EffectWriter writer;
    private final CompanyClock clock;

    DailyRecheck(
            RecheckQueries queries,
            Commands commands,
            Locks locks,
            EffectWriter writer,
            CompanyClock clock,
            People people) {
        this.people = people;
        this.queries = queries;
        this.commands = commands;
        this.locks = locks;
        this.writer = writer;
        this.clock = clock;
    }

    /** Looks at it each morning. */
    @Bean
    Task<?> dailyRecheckJob() {
        return Jobs.every("daily-recheck", Duration.ofMinutes(1), Duration.ofMinutes(10), this::onceADay);
    }

    void onceADay() {
        var today = clock.today();
        // a company that is still being set up is looked at when it stands
        if (!people.isEmpty() && queries.runs(today) == 0) {
            var run = new DailyRecheckEntity();
            run.runOn = today;
            run.startedAt = Instant.now();
            var done = run(today);
            run.finishedAt = Instant.now();
            commands.inTransaction(() -> {
                queries.session().upsert(run);
                return null;
            });
            LOG.info("{} customers were re-checked for dates that passed.", done);
        }
    }

    /** Has everything that could have changed by a day looked at again; answers how many customers that concerned. */
    public int run(LocalDate on) {
        var customers = queries.concernedBy(on);
        customers.forEach(customer -> again(new CommandContext(THE_CLOCK, on, ""), customer));
        return customers.size();
    }

    /** Has the held orders looked at again, as after a change of the rules; cleared ones stay. */
    int held(LocalDate on) {
        var customers = queries.withHeldOrders();
        customers.forEach(customer -> again(new CommandContext(THE_CLOCK, on, ""), customer));
        return customers.size();
    }

    /** What fails for one customer is told and does not keep the others from their turn. */
    private void again(CommandContext context, String customer) {
        try {
            commands.inTransaction(() -> {
                locks.customer(customer);
                writer.write(context, List.of(new Effect.CustomerChanged(customer)));
                return null;
            });
        } catch (RuntimeException failed) {
            LOG.error("The orders of customer {} could not be re-checked.", customer, failed);
        }
    }
}
